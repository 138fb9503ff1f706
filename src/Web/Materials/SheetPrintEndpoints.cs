using System.Text;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using QRCoder;
using VelvetGate.Core.Materials;
using VelvetGate.Store.House;
using VelvetGate.Store.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Materials;

/// <summary>Codes and labels for tags.</summary>
public static class SheetPrintEndpoints
{
    private const int MostLabels = 500;

    public static void MapSheetPrints(this IEndpointRouteBuilder app)
    {
        var prints = app.MapGroup("/api").WithTags("Sheets");
        prints
            .MapGet("/sheets/{tag}/code.svg", Code)
            .WithName("SheetCode")
            .AllowAnonymous()
            .Produces(200, contentType: "image/svg+xml")
            .ProducesProblem(404);
        prints
            .MapGet("/sheet-labels.pdf", Labels)
            .WithName("SheetLabels")
            .RequireAuthorization(Policy.SignedIn)
            .Produces(200, contentType: "application/pdf")
            .ProducesProblem(400)
            .ProducesProblem(404);
    }

    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Code(
        string tag,
        HouseAddress address,
        SheetDeskStore sheets,
        IClock clock,
        CancellationToken cancel
    )
    {
        if (SheetTags.Read(tag) is not { } number || await sheets.Find(number, clock.GetCurrentInstant(), cancel) is null)
            return Problems.NotFound("sheet");
        using var data = QRCodeGenerator.GenerateQrCode(Address(address, number), QRCodeGenerator.ECCLevel.M);
        using var code = new SvgQRCode(data);
        return TypedResults.File(Encoding.UTF8.GetBytes(code.GetGraphic(4)), "image/svg+xml");
    }

    /// <param name="tags">Tags with commas between.</param>
    /// <param name="skip">Labels of the first page that are used already.</param>
    private static async Task<Results<FileContentHttpResult, ProblemHttpResult>> Labels(
        string? tags,
        int? skip,
        string? unit,
        HouseAddress address,
        SheetDeskStore sheets,
        SheetStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        var shown = Length.ParseChoice(unit);
        if (shown.Refusal is { } refusal)
            return Problems.Of(refusal);
        var wanted = (tags ?? "")
            .Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries)
            .Select(t => SheetTags.Read(t) ?? SheetTag.From(t))
            .Distinct()
            .ToList();
        if (wanted.Count is 0 or > MostLabels)
            return Problems.Of(MaterialsProblems.LabelsTags.Refuse("tags", MostLabels));
        var all = (await sheets.All(now, cancel)).ToDictionary(s => s.Tag);
        if (wanted.Where(t => !all.ContainsKey(t)).Select(t => t.Value).FirstOrDefault() is { } missing)
            return Problems.NotFound($"sheet as {missing}");
        var room = await house.Room(now, cancel);
        var (columns, rows) = (
            room?.LabelColumns ?? Core.House.RoomSpec.UsualLabelColumns,
            room?.LabelRows ?? Core.House.RoomSpec.UsualLabelRows
        );
        if (skip is < 0 || skip >= columns * rows)
            return Problems.Of(MaterialsProblems.LabelsSkip.Refuse("skip", columns * rows - 1));
        var labels = wanted
            .Select(t => new TagLabel(
                t,
                all[t].MaterialName,
                $"{Length.Show(all[t].ThicknessMm, shown.Value)}, {Length.Number(all[t].WidthMm, shown.Value)} × "
                    + $"{Length.Number(all[t].HeightMm, shown.Value)}",
                Address(address, t)
            ))
            .ToList();
        return TypedResults.File(TagLabels.Pdf(labels, columns, rows, skip ?? 0), "application/pdf", "sheet-labels.pdf");
    }

    private static string Address(HouseAddress house, SheetTag tag) => house.Of($"/sheets/{tag}");
}
