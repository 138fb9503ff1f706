using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Drawings;

/// <summary>Judges the pixel pictures of a drawing.</summary>
internal static class PictureFindings
{
    public static void Add(List<Finding> found, DrawingSummary drawing, LengthUnit unit, DrawingTolerances tolerances)
    {
        if (drawing.Images == 0)
            return;
        var pictures = drawing.Pictures ?? [];
        AddCoarse(found, [.. pictures.Where(p => p.Ppi() is { } ppi && Whole(ppi) < tolerances.LowestPpi)], tolerances.LowestPpi);
        AddGrey(found, [.. pictures.Where(p => p.Greys > (double)tolerances.GreyPercent / 100)]);
        if (drawing.Format is "png" or "jpeg" && drawing.Asides is { SizeAssumed: true })
            found.Add(
                new(
                    kind: FindingKinds.ImageNoSize,
                    severity: Severity.Warn,
                    count: 1,
                    lengthMm: 0,
                    at: At(pictures),
                    text: $"The file states no size: taken at {PictureReader.AssumedPpi} pixels to the inch it is "
                        + $"{Length.Number((decimal)Math.Round(drawing.WidthMm, 1), unit)} x "
                        + $"{Length.Show((decimal)Math.Round(drawing.HeightMm, 1), unit)}.",
                    why: "Another program may take it larger or smaller: say how wide it is to be, and measure before it runs."
                )
            );
        var unseen = drawing.Images - pictures.Count(p => p.Ppi() is not null);
        found.Add(
            new(
                kind: FindingKinds.ImagePlaced,
                severity: Severity.Note,
                count: drawing.Images,
                lengthMm: 0,
                at: At(pictures),
                text: DrawingFindings.Count(drawing.Images, "pixel picture")
                    + (
                        unseen == 0 ? ""
                        : unseen == drawing.Images ? ", not in the file"
                        : $", {unseen} of them not in the file"
                    )
                    + ".",
                why: unseen == 0
                    ? "Pictures can only be engraved."
                    : "Pictures can only be engraved; what is linked or cannot be read is not measured: put it into the file."
            )
        );
        // A file that says how large it is and cannot be decoded to its end, or is larger than is looked at.
        var unread = pictures.Where(p => p is { Pixels: > 0, Place: not null, Greys: null }).ToList();
        if (unread.Count > 0)
            found.Add(
                new(
                    kind: FindingKinds.ImageUnread,
                    severity: Severity.Stop,
                    count: unread.Count,
                    lengthMm: 0,
                    at: At(unread),
                    text: $"{DrawingFindings.Count(unread.Count, "pixel picture")} whose pixels could not all be read.",
                    why: "The file is damaged, or has more pixels than are looked at here: save the picture again, with 300 "
                        + "pixels to the inch."
                )
            );
    }

    private static void AddCoarse(List<Finding> found, IReadOnlyList<PlacedPicture> coarse, int wanted)
    {
        if (coarse.Count == 0)
            return;
        var lowest = coarse.Min(p => Whole(p.Ppi()!.Value));
        found.Add(
            new(
                kind: FindingKinds.ImageLowResolution,
                severity: Severity.Warn,
                count: coarse.Count,
                lengthMm: 0,
                at: At(coarse),
                text: $"{DrawingFindings.Count(coarse.Count, "pixel picture")} of only {lowest} pixels to the inch as placed.",
                why: $"Below {wanted} the dots show: place it smaller, or scan it finer."
            )
        );
    }

    /// <summary>Source: common practice. What share is let pass as soft edges is house practice.</summary>
    private static void AddGrey(List<Finding> found, IReadOnlyList<PlacedPicture> grey)
    {
        if (grey.Count == 0)
            return;
        var most = (int)Math.Round(100 * grey.Max(p => p.Greys!.Value));
        found.Add(
            new(
                kind: FindingKinds.ImageNotBlackWhite,
                severity: Severity.Warn,
                count: grey.Count,
                lengthMm: 0,
                at: At(grey),
                text: $"{DrawingFindings.Count(grey.Count, "pixel picture")} with greys or colours: "
                    + $"{(grey.Count == 1 ? "" : "up to ")}{most} % of {(grey.Count == 1 ? "its" : "the")} pixels are neither black nor "
                    + "white.",
                why: "The beam is on or off: a driver turns greys into dots by a rule of its own. Turn it into black dots yourself, or "
                    + "try it on scrap."
            )
        );
    }

    /// <summary>A PNG states its density in whole pixels to the metre: 300 to the inch are 299.9994 there.</summary>
    private static int Whole(double ppi) => (int)Math.Floor(ppi + 0.02);

    private static List<Place> At(IEnumerable<PlacedPicture> pictures) => [.. pictures.Take(50).Select(p => new Place(p.X, p.Y))];
}
