using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.House.Calendars;
using VelvetGate.Store.House;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.House;

/// <param name="Text">The file, iCalendar (RFC 5545).</param>
/// <param name="MachineIds">Those closed; none for the whole house.</param>
/// <param name="DryRun">Says what would be; false writes it.</param>
public sealed record ClosureFileRequest(string? Text = null, IReadOnlyList<string>? MachineIds = null, bool? DryRun = null);

/// <param name="Hit">How many standing bookings fall into it.</param>
public sealed record ClosureFileLine(
    string Title,
    string When,
    int Times,
    Instant Start,
    Instant End,
    ImportState State,
    bool Endless,
    int Hit
);

/// <param name="Left">Lines of the file that are not taken, and why.</param>
public sealed record ClosureFileResponse(IReadOnlyList<ClosureFileLine> Lines, IReadOnlyList<ClosureLeft> Left, bool Stored);

/// <summary>Closures from a calendar file, tried out before they are written.</summary>
public static class ClosureFileEndpoints
{
    public static void MapClosureFile(this IEndpointRouteBuilder app) =>
        app.MapPost("/api/calendar/file", Import)
            .WithMetadata(LargeJson.File)
            .WithTags("Calendar")
            .WithName("ImportClosures")
            .RequireAuthorization(Policy.Calendar)
            .ProducesProblem(400)
            .ProducesProblem(413);

    private static async Task<Results<Ok<ClosureFileResponse>, ProblemHttpResult>> Import(
        ClosureFileRequest request,
        CurrentUser user,
        ClosureImport import,
        HouseStore house,
        IClock clock,
        CancellationToken cancel
    )
    {
        var now = clock.GetCurrentInstant();
        if (await house.Rules(now, cancel) is not { } rules)
            return Problems.NoRules();
        var read = ClosureFile.Read(request.Text ?? "", rules.Clock, now);
        if (read.Refusal is { } refusal)
            return Problems.Of(refusal);
        var machines = (request.MachineIds ?? []).Where(m => !string.IsNullOrWhiteSpace(m)).Distinct().Select(MachineId.From).ToList();
        var dry = request.DryRun != false;
        var done = await import.Run(read.Value.Lines, machines, dry, user.Id, now, cancel);
        if (done.Refusal is { } unknown)
            return Problems.Of(unknown);
        var lines = done.Value.Select(c => new ClosureFileLine(
            Title: c.Line.Title,
            When: c.Line.Says,
            Times: c.Line.Times.Count,
            Start: c.Line.Times[0].Start,
            End: c.Line.Times[0].End,
            State: c.State,
            Endless: c.Line.Endless,
            Hit: c.Hit
        ));
        return TypedResults.Ok(new ClosureFileResponse([.. lines], read.Value.Left, !dry));
    }
}
