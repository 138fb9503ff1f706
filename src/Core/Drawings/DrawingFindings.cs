using VelvetGate.Core.House;
using VelvetGate.Core.Machines;

namespace VelvetGate.Core.Drawings;

/// <summary>How much a finding matters: stop shuts the gate, warn is a condition, note is for information.</summary>
public enum Severity
{
    Stop,
    Warn,
    Note,
}

/// <param name="Code">Such as <c>line.duplicate</c>.</param>
/// <param name="LengthMm">Length concerned, in mm; 0 where length means nothing.</param>
/// <param name="At">Places on the drawing, mm.</param>
/// <param name="Text">One sentence.</param>
/// <param name="Why">Why it matters.</param>
[method: System.Text.Json.Serialization.JsonConstructor]
public sealed record Finding(string Code, Severity Severity, int Count, double LengthMm, IReadOnlyList<Place> At, string Text, string Why)
{
    public Finding(FindingKind kind, Severity severity, int count, double lengthMm, IReadOnlyList<Place> at, string text, string why)
        : this(kind.Code, severity, count, lengthMm, at, text, why) { }

    [System.Text.Json.Serialization.JsonIgnore]
    public FindingKind Kind => FindingKinds.Of(Code);

    /// <summary>Somebody who may decide has to be asked: it can be right, and can be a fault.</summary>
    public bool Asks { get; init; }

    /// <summary>What was measured; null where nothing is.</summary>
    public IReadOnlyList<Gap>? Spans { get; init; }
}

/// <summary>Judges a drawing against a colour map and a machine. Source of all: faults people look for, common practice.</summary>
public static class DrawingFindings
{
    /// <summary>The faults that are looked for, each with the beginning of its codes.</summary>
    /// <summary>What nobody looked at, so that silence about it is not taken for a yes.</summary>
    /// <param name="drawing">Null for one of which everything was read.</param>
    public static IReadOnlyList<string> NotLookedAt(DrawingSummary? drawing, ColourMap colours, MachineSpec? machine) =>
        [
            "whether it fits your sheet: give the sheet’s tag at the gate",
            .. KnowsWidths(drawing, colours, machine) ? [] : (string[])["line widths: some machines cut hairlines only"],
            .. KnowsHidden(drawing) ? [] : (string[])["hidden layers and objects: they are left out here, and your machine may run them"],
            "whether the parts are right: only you know what you meant",
        ];

    /// <summary>The faults that were looked for and are not there: what nobody looked at is none of them.</summary>
    public static IReadOnlyList<string> NotFoundIn(
        IReadOnlyList<Finding> findings,
        DrawingSummary? drawing,
        ColourMap colours,
        MachineSpec? machine
    ) =>
        [
            .. FindingKinds
                .All.Where(k => k.LookedFor is not null)
                .Where(k => k != FindingKinds.StrokeWide || KnowsWidths(drawing, colours, machine))
                .Where(k => k != FindingKinds.LayerHidden || KnowsHidden(drawing))
                .GroupBy(k => k.LookedFor!)
                .Where(same => !findings.Any(f => same.Contains(f.Kind)))
                .Select(same => same.Key),
        ];

    /// <summary>The machine says how wide a cut line may be, and the file how wide each is.</summary>
    private static bool KnowsWidths(DrawingSummary? drawing, ColourMap colours, MachineSpec? machine) =>
        machine?.WidestLineMm is not null
        && (drawing?.Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Cut).All(s => s.WidestMm is not null) ?? true);

    private static bool KnowsHidden(DrawingSummary? drawing) => drawing is null || drawing.Asides?.Hidden is not null;

    /// <param name="machine">Null judges everything but the size.</param>
    /// <param name="thicknessMm">Of the sheet; null leaves out what is judged by it.</param>
    /// <param name="tolerances">Of the house; null takes the usual ones.</param>
    /// <param name="clamps">As marked on the drawing.</param>
    /// <param name="unit">The unit in which the sentences write lengths.</param>
    public static IReadOnlyList<Finding> Of(
        DrawingSummary drawing,
        ColourMap colours,
        MachineSpec? machine,
        LengthUnit unit = LengthUnit.Mm,
        decimal? thicknessMm = null,
        IReadOnlyList<Clamp>? clamps = null,
        DrawingTolerances? tolerances = null
    )
    {
        tolerances ??= DrawingTolerances.Usual;
        colours = drawing.Meanings(colours);
        var found = new List<Finding>();
        if (drawing.Reach is null)
            found.Add(
                new(
                    kind: FindingKinds.FileEmpty,
                    severity: Severity.Stop,
                    count: 1,
                    lengthMm: 0,
                    at: [],
                    text: "nothing in it is drawn.",
                    why: "There is nothing to run: look for hidden layers or linked pictures."
                )
            );
        AddDoubled(found, drawing, colours, unit);
        if (machine is not null)
            SpacingFindings.Add(found, drawing, colours, machine, thicknessMm, unit, tolerances);
        var unknown = drawing.Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Unknown).ToList();
        if (unknown.Count > 0)
        {
            var names = string.Join(", ", unknown.Select(s => s.Colour).Take(5)) + (unknown.Count > 5 ? " and more" : "");
            found.Add(
                new(
                    kind: FindingKinds.ColourUnknown,
                    severity: Severity.Stop,
                    count: unknown.Sum(s => s.Paths),
                    lengthMm: unknown.Sum(s => s.LengthMm),
                    at: [.. unknown.Take(50).Select(s => Corner(s.Box))],
                    text: $"{names} {(unknown.Count == 1 ? "has" : "have")} no operation in this house.",
                    why: "A colour without an operation is refused, not guessed: choose one on the drawing’s page, for this drawing."
                )
            );
        }
        var ignored = drawing.Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Ignore).ToList();
        if (ignored.Count > 0)
            found.Add(
                new(
                    kind: FindingKinds.ColourIgnored,
                    severity: Severity.Note,
                    count: ignored.Sum(s => s.Paths),
                    lengthMm: ignored.Sum(s => s.LengthMm),
                    at: [.. ignored.Take(50).Select(s => Corner(s.Box))],
                    text: $"{string.Join(", ", ignored.Select(s => s.Colour).Take(5))}{(ignored.Count > 5 ? " and more" : "")} is left "
                        + "out, as chosen for it.",
                    why: "What should run wants another colour."
                )
            );
        if (drawing.Texts > 0)
            found.Add(
                new(
                    kind: FindingKinds.TextLive,
                    severity: Severity.Stop,
                    count: drawing.Texts,
                    lengthMm: 0,
                    at: drawing.TextAt,
                    text: $"{Count(drawing.Texts, "piece")} of lettering left as live text.",
                    why: "Without the font it changes or vanishes: turn lettering into outlines."
                )
            );
        AddSize(found, drawing, machine, unit);
        if (ScaleFindings.Of(drawing, machine, unit) is { } scale)
            found.Add(scale);
        AddOpen(found, drawing, colours, unit);
        AddWide(found, drawing, colours, machine, unit);
        if (drawing.Broken > 0)
            found.Add(
                new(
                    kind: FindingKinds.PathBroken,
                    severity: Severity.Warn,
                    count: drawing.Broken,
                    lengthMm: 0,
                    at: drawing.Asides?.At(FindingKinds.PathBroken.Code) ?? [],
                    text: $"{Count(drawing.Broken, "shape")} whose data breaks off: drawn up to the error.",
                    why: "What is missing is not cut."
                )
            );
        if (drawing.Noted is { } noted)
            found.Add(
                new(
                    kind: FindingKinds.EntityNoted,
                    severity: Severity.Warn,
                    count: noted.Values.Sum(),
                    lengthMm: 0,
                    at: [],
                    text: $"{string.Join(", ", noted.Select(n => Count(n.Value, n.Key.ToLowerInvariant())))}: not drawn here.",
                    why: "What stands in them is neither cut nor measured: turn it into plain lines, or take it out."
                )
            );
        PictureFindings.Add(found, drawing, unit, tolerances);
        AddAsides(found, drawing, colours);
        if (clamps is not null && Clamps.Find(drawing, clamps, unit, machine?.Station?.Framing) is { } obstructed)
            found.Add(obstructed);
        return found;
    }

    private static void AddDoubled(List<Finding> found, DrawingSummary drawing, ColourMap colours, LengthUnit unit)
    {
        var same = drawing.Doubled.Where(d => colours.Of(d.ColourA) == colours.Of(d.ColourB)).ToLookup(d => colours.Of(d.ColourA));
        Add(same[StrokeMeaning.Cut], Severity.Stop);
        Add([.. same[StrokeMeaning.Score], .. same[StrokeMeaning.Engrave]], Severity.Warn);

        void Add(IEnumerable<Doubled> doubled, Severity severity)
        {
            var list = doubled.ToList();
            if (list.Count == 0)
                return;
            var length = list.Sum(d => d.LengthMm);
            found.Add(
                new(
                    kind: FindingKinds.LineDuplicate,
                    severity: severity,
                    count: list.Sum(d => d.Count),
                    lengthMm: length,
                    at: [.. list.SelectMany(d => d.At).Take(50)],
                    text: $"{Length.Show((decimal)Math.Round(length, 3), unit)} of "
                        + $"{(severity == Severity.Stop ? "cut" : "score or engraved")} line drawn more than once.",
                    why: severity == Severity.Stop
                        ? "The second pass has nothing left to cut: it becomes heat, and fire."
                        : "The line comes out deeper and darker."
                )
            );
        }
    }

    private static void AddOpen(List<Finding> found, DrawingSummary drawing, ColourMap colours, LengthUnit unit)
    {
        var loose = drawing.Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Cut).Select(s => s.Loose).OfType<Loose>().ToList();
        if (loose.Count == 0)
            return;
        var length = loose.Sum(l => l.LengthMm);
        found.Add(
            new(
                kind: FindingKinds.PathOpen,
                severity: Severity.Warn,
                count: loose.Sum(l => l.Count),
                lengthMm: length,
                at: [.. loose.SelectMany(l => l.At).Take(50)],
                text: $"{Count(loose.Sum(l => l.Count), "cut line")} that {(loose.Sum(l => l.Count) == 1 ? "does" : "do")} not close, "
                    + $"{Length.Show((decimal)Math.Round(length, 3), unit)} in all.",
                why: "Where a part should come free, it will not. Slits and hinges are open by design."
            )
        );
    }

    private static void AddWide(List<Finding> found, DrawingSummary drawing, ColourMap colours, MachineSpec? machine, LengthUnit unit)
    {
        if (machine?.WidestLineMm is not { } most)
            return;
        var wide = drawing
            .Strokes.Where(s => colours.Of(s.Colour) == StrokeMeaning.Cut && s.WidestMm > (double)most * 1.01)
            .OrderByDescending(s => s.WidestMm)
            .ToList();
        if (wide.Count == 0)
            return;
        var widest = Length.Show((decimal)Math.Round(wide[0].WidestMm!.Value, 4), unit);
        found.Add(
            new(
                kind: FindingKinds.StrokeWide,
                severity: Severity.Warn,
                count: wide.Count,
                lengthMm: wide.Sum(s => s.LengthMm),
                at: [.. wide.Select(s => s.WidestAt).OfType<Place>()],
                text: $"Cut lines up to {widest} wide: {machine.Name} takes {Length.Show(most, unit)} at most for a cut.",
                why: "It engraves wider lines, or leaves them out, and the part stays in the sheet: make them thin, under Mend."
            )
        );
    }

    private static void AddAsides(List<Finding> found, DrawingSummary drawing, ColourMap colours)
    {
        var asides = drawing.Asides ?? new DrawingAsides();
        if (asides.Clipped > 0)
            found.Add(
                new(
                    kind: FindingKinds.ClipIgnored,
                    severity: Severity.Warn,
                    count: asides.Clipped,
                    lengthMm: 0,
                    at: asides.At(FindingKinds.ClipIgnored.Code),
                    text: $"{Count(asides.Clipped, "clipped or masked shape")}: taken whole here.",
                    why: "Most machines cut what a clip hides on the screen: cut the lines off in your drawing program."
                )
            );
        var late = (drawing.Nested ?? []).Where(n => colours.Of(n.Colour) == StrokeMeaning.Cut && n.OuterFirst > 0).ToList();
        if (late.Sum(n => n.OuterFirst) is > 0 and var outer)
            found.Add(
                new(
                    kind: FindingKinds.OrderInnerFirst,
                    severity: Severity.Note,
                    count: outer,
                    lengthMm: 0,
                    at: [.. late.SelectMany(n => n.At).Take(50)],
                    text: $"{Count(outer, "inner cut")} drawn after the outline round {(outer == 1 ? "it" : "them")}.",
                    why: "A part that has come free moves: have the inner cuts run first, in the order of the docket."
                )
            );
        if (asides.FilledOnly > 0)
            found.Add(
                new(
                    kind: FindingKinds.ShapeFilled,
                    severity: Severity.Note,
                    count: asides.FilledOnly,
                    lengthMm: 0,
                    at: [.. drawing.Fills.Take(50).Select(f => Corner(f.Box))],
                    text: $"{Count(asides.FilledOnly, "filled shape")} without an outline.",
                    why: "Filled shapes are engraved, not cut: give an outline to what should come free."
                )
            );
        var cutToo = (asides.FilledToo ?? new Dictionary<string, int>()).Where(f => colours.Of(f.Key) == StrokeMeaning.Cut).ToList();
        if (cutToo.Count > 0)
        {
            var shapes = cutToo.Sum(f => f.Value);
            found.Add(
                new(
                    kind: FindingKinds.ShapeFilled,
                    severity: Severity.Warn,
                    count: shapes,
                    lengthMm: 0,
                    at: [.. drawing.Fills.Where(f => cutToo.Any(c => c.Key == f.Colour)).Take(50).Select(f => Corner(f.Box))],
                    text: $"{Count(shapes, "shape")} filled in a colour that cuts.",
                    why: "The outline is cut; the fill is engraved as well, or left out by your machine: take the fill away if you only "
                        + "want the cut."
                )
            );
        }
        if (asides.StylesUnread > 0)
            found.Add(
                new(
                    kind: FindingKinds.StyleUnread,
                    severity: Severity.Warn,
                    count: asides.StylesUnread,
                    lengthMm: 0,
                    at: [],
                    text: $"{Count(asides.StylesUnread, "style rule")} that cannot be read here.",
                    why: "Colours and hidden parts may be others than shown: compare with your drawing program, or save as plain SVG."
                )
            );
        if (asides.OffPage > 0)
            found.Add(
                new(
                    kind: FindingKinds.PageOutside,
                    severity: Severity.Note,
                    count: asides.OffPage,
                    lengthMm: 0,
                    at: asides.At(FindingKinds.PageOutside.Code),
                    text: $"{Count(asides.OffPage, "shape")} {(asides.OffPage == 1 ? "lies" : "lie")} off the page.",
                    why: "Left over from somewhere? They run too, and count for the size: delete them, or make the page larger."
                )
            );
        if (asides.Hidden is > 0 and var hidden)
            found.Add(
                new(
                    kind: FindingKinds.LayerHidden,
                    severity: Severity.Note,
                    count: hidden,
                    lengthMm: 0,
                    at: [],
                    text: $"{Count(hidden, "hidden object")} left out here.",
                    why: "Your machine may run what is hidden: delete it from the file, or show it and add the file again."
                )
            );
        if (asides.Painted > 0)
            found.Add(
                new(
                    kind: FindingKinds.PaintNoted,
                    severity: Severity.Note,
                    count: asides.Painted,
                    lengthMm: 0,
                    at: asides.At(FindingKinds.PaintNoted.Code),
                    text: $"{Count(asides.Painted, "shape")} painted with a pattern or gradient.",
                    why: "The pattern is not read here: engrave it as a picture, or draw its lines."
                )
            );
    }

    private static void AddSize(List<Finding> found, DrawingSummary drawing, MachineSpec? machine, LengthUnit unit)
    {
        if (machine is null || drawing.Reach is not { } extent)
            return;
        var (w, h) = (extent.Width, extent.Height);
        if (Fits(w, h, machine.UsableWidthMm, machine.UsableHeightMm))
            return;
        var turned = Fits(h, w, machine.UsableWidthMm, machine.UsableHeightMm) ? " It would fit turned by a quarter." : "";
        var offBed = !Fits(w, h, machine.BedWidthMm, machine.BedHeightMm);
        found.Add(
            new(
                kind: offBed ? FindingKinds.SizeOffBed : FindingKinds.SizeOverMargin,
                severity: Severity.Stop,
                count: 1,
                lengthMm: 0,
                at: [new Place(extent.MaxX, extent.MaxY)],
                text: $"{Size((decimal)w, (decimal)h)} is more than the {Size(machine.UsableWidthMm, machine.UsableHeightMm)} that "
                    + $"{machine.Name} can use.{turned}",
                why: "The head would meet its end stops, or the job is refused."
            )
        );

        string Size(decimal across, decimal down) => $"{Length.Number(across, unit)} x {Length.Show(down, unit)}";
    }

    private static bool Fits(double w, double h, decimal bedW, decimal bedH) => w <= (double)bedW + 1e-6 && h <= (double)bedH + 1e-6;

    private static Place Corner(Extent box) => new(box.MinX, box.MinY);

    internal static string Count(int n, string what) =>
        n == 1 ? $"1 {what}"
        : what.EndsWith('h') ? $"{n} {what}es"
        : $"{n} {what}s";
}
