using NodaTime;
using VelvetGate.Core.Gating;
using VelvetGate.Core.Materials;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Gate;

/// <summary>An ask as it is sent. The fields of an item given flat mean one item.</summary>
/// <param name="Start">RFC 3339 with an offset.</param>
/// <param name="Minutes">Whole time at the machine; left out takes what the job needs.</param>
/// <param name="Unit">mm or in: how a bare thickness is read and reasons are written.</param>
/// <param name="Id">Bookings only: a client-made UUID; the same again answers with the same booking.</param>
/// <param name="Companions">How many come along; they watch, attend nothing, and wear what the beam asks for.</param>
public record GateQuestionRequest(
    string? MemberId = null,
    string? MachineId = null,
    IReadOnlyList<GateItemRequest>? Items = null,
    string? MaterialId = null,
    decimal? ThicknessMm = null,
    string? Thickness = null,
    IReadOnlyList<string>? Operations = null,
    string? SheetTag = null,
    string? DrawingId = null,
    decimal? RunMinutes = null,
    IReadOnlyList<string>? SettingIds = null,
    RoundPieceRequest? Round = null,
    string? Fixture = null,
    string? SupervisorId = null,
    string? Start = null,
    decimal? Minutes = null,
    string? Id = null,
    string? Note = null,
    string? Unit = null,
    int? Companions = null,
    BenchRequest? Bench = null
);

/// <summary>A finishing bench with the booking.</summary>
/// <param name="Start">RFC 3339 with an offset; left out, it follows the machine’s time.</param>
/// <param name="Minutes">Left out, as long as is usual in the house.</param>
public sealed record BenchRequest(string? Start = null, int? Minutes = null);

/// <param name="ThicknessMm">Measured thickness in mm.</param>
/// <param name="Thickness">The same as typed, such as <c>1/8 in</c>; instead of <paramref name="ThicknessMm"/>.</param>
/// <param name="SettingIds">Entries of the library of settings that the machine will be set to.</param>
public sealed record GateItemRequest(
    string? MaterialId = null,
    decimal? ThicknessMm = null,
    string? Thickness = null,
    IReadOnlyList<string>? Operations = null,
    string? SheetTag = null,
    string? DrawingId = null,
    decimal? RunMinutes = null,
    IReadOnlyList<string>? SettingIds = null,
    RoundPieceRequest? Round = null
);

/// <summary>What turns on the rotary; lengths as typed, such as <c>2.8 in</c>.</summary>
/// <param name="Diameter2">At the other end; left out where it is as wide.</param>
/// <param name="HandleOrBall">A handle, a spout, or round both ways.</param>
public sealed record RoundPieceRequest(string? Diameter = null, string? Diameter2 = null, bool? HandleOrBall = null);

/// <summary>Reads an ask, and says of each field what is wrong with it.</summary>
public static class GateQuestionReading
{
    private const int MostItems = 20;
    private const int MostMinutes = 1440;
    private const int MostSettings = 6;
    private static readonly Duration Farthest = Duration.FromDays(3660);

    /// <returns>Null when a field is wrong; <paramref name="errors"/> then names it. Minutes are 0 when left out.</returns>
    public static GateQuestion? Read(GateQuestionRequest request, PersonId askedBy, Instant now, FieldErrors errors)
    {
        var machine = errors.Need("machineId", request.MachineId, "Choose a machine.");
        var start = ReadStart(request.Start, now, errors);
        return Read(request, machine, start, askedBy, errors);
    }

    /// <summary>The same without a machine and a start, which are still looked for.</summary>
    /// <returns>Null when a field is wrong; to be asked with <c>with</c> of each machine.</returns>
    public static GateQuestion? ReadJob(GateQuestionRequest request, PersonId askedBy, Instant now, FieldErrors errors) =>
        Read(request, "", now, askedBy, errors);

    private static GateQuestion? Read(GateQuestionRequest request, MachineId machine, Instant start, PersonId askedBy, FieldErrors errors)
    {
        var member = Ids.From<PersonId>(Word(request.MemberId)) ?? askedBy;
        var unit = errors.Unit(request.Unit);
        var flat = request.Items is null;
        var given = request.Items
            ??
            [
                new(
                    MaterialId: request.MaterialId,
                    ThicknessMm: request.ThicknessMm,
                    Thickness: request.Thickness,
                    Operations: request.Operations,
                    SheetTag: request.SheetTag,
                    DrawingId: request.DrawingId,
                    RunMinutes: request.RunMinutes,
                    SettingIds: request.SettingIds,
                    Round: request.Round
                ),
            ];
        if (given.Count is 0 or > MostItems)
            errors.Add("items", $"Give 1 to {MostItems} items.");
        var items = given.Take(MostItems).Select((item, i) => ReadItem(item, unit, flat ? "" : $"items[{i}].", errors)).ToList();
        var minutes = ReadMinutes(request.Minutes, errors);
        var bench = request.Bench is { } wish ? ReadBench(wish, errors) : null;
        return errors.Any
            ? null
            : new GateQuestion(
                MemberId: member,
                MachineId: machine,
                Items: [.. items.Select(i => i!)],
                Fixture: Word(request.Fixture),
                SupervisorId: Ids.From<PersonId>(Word(request.SupervisorId)),
                Start: start,
                Minutes: minutes
            )
            {
                ShowIn = unit,
                Companions = Math.Clamp(request.Companions ?? 0, 0, Core.Booking.BookingRefusals.MostCompanions),
                Bench = bench,
            };
    }

    private static BenchWish ReadBench(BenchRequest wish, FieldErrors errors)
    {
        if (wish.Minutes is <= 0 or > Finishing.MostMinutes)
            errors.Add("bench.minutes", $"Give 1 to {Finishing.MostMinutes} minutes at the finishing bench.");
        var start = Word(wish.Start) is { } text
            ? errors.Moment(
                "bench.start",
                text,
                "Give the start with its offset, or leave it out: the bench then follows the machine’s time."
            )
            : null;
        return new BenchWish(start, wish.Minutes);
    }

    private static GateItem? ReadItem(GateItemRequest? item, LengthUnit bare, string at, FieldErrors errors)
    {
        if (item is null)
        {
            errors.Add(at.TrimEnd('.'), "An item is empty.");
            return null;
        }
        var material = errors.Need(at + "materialId", item.MaterialId, "Choose a material.");
        var thickness = ReadThickness(item, bare, at, errors);
        var operations = errors.Operations(at + "operations", item.Operations);
        if (item.Operations is null or { Count: 0 })
            errors.Add(at + "operations", "Say what to do: cut, score or engrave.");
        Guid? drawing = null;
        if (Word(item.DrawingId) is { } text)
        {
            if (Guid.TryParse(text, out var id))
                drawing = id;
            else
                errors.Add(at + "drawingId", "That is not the id of a drawing.");
        }
        if (item.RunMinutes is < 0 or > MostMinutes)
            errors.Add(at + "runMinutes", $"Give the run in minutes, 0 to {MostMinutes}.");
        return new GateItem(
            MaterialId: material,
            ThicknessMm: thickness,
            Operations: [.. operations.Order()],
            SheetTag: Word(item.SheetTag) is { } tag ? SheetTags.Read(tag) ?? tag.ToUpperInvariant() : (SheetTag?)null,
            DrawingId: drawing,
            RunMinutes: item.RunMinutes,
            SettingIds: ReadSettings(item.SettingIds, at, errors),
            Round: item.Round is { } round ? ReadRound(round, bare, at + "round.", errors) : null
        );
    }

    private static RoundPiece ReadRound(RoundPieceRequest round, LengthUnit bare, string at, FieldErrors errors)
    {
        var one = errors.Mm(at + "diameter", round.Diameter, bare);
        var other = Word(round.Diameter2) is { } text ? errors.Mm(at + "diameter2", text, bare) : (decimal?)null;
        return new RoundPiece(Math.Round(one, 6), other is { } mm ? Math.Round(mm, 6) : null, round.HandleOrBall ?? false);
    }

    /// <returns>Null where none is named.</returns>
    private static List<Guid>? ReadSettings(IReadOnlyList<string>? named, string at, FieldErrors errors)
    {
        var ids = (named ?? []).Select(Word).OfType<string>().Select(t => Guid.TryParse(t, out var id) ? id : (Guid?)null).ToList();
        if (ids.Contains(null))
            errors.Add(at + "settingIds", "That is not the id of a setting.");
        else if (ids.Count > MostSettings)
            errors.Add(at + "settingIds", $"Name at most {MostSettings} settings.");
        return ids.Count == 0 ? null : [.. ids.OfType<Guid>().Distinct()];
    }

    private static decimal ReadThickness(GateItemRequest item, LengthUnit bare, string at, FieldErrors errors)
    {
        if (item.Thickness is { } typed)
            return Math.Round(errors.Mm(at + "thickness", typed, bare), 6);
        if (item.ThicknessMm is not { } mm)
            errors.Add(at + "thicknessMm", "Give the measured thickness, such as 3 mm.");
        else if (mm is <= 0 or > 500)
            errors.Add(at + "thicknessMm", "Give the thickness in mm, above 0 and to 500.");
        else
            return Math.Round(mm, 6);
        return 0;
    }

    private static Instant ReadStart(string? text, Instant now, FieldErrors errors)
    {
        const string missing = "Give the start with its offset, such as 2026-11-24T14:00:00+00:00: without one it could be two times.";
        if (errors.Moment("start", text, missing) is not { } start)
            return default;
        if (start - now > Farthest || now - start > Farthest)
            errors.Add("start", "That is years away. Check the date.");
        return start;
    }

    private static int ReadMinutes(decimal? minutes, FieldErrors errors)
    {
        if (minutes is null)
            return 0;
        if (minutes is > 0 and <= MostMinutes && minutes == Math.Truncate(minutes.Value))
            return (int)minutes;
        errors.Add(
            "minutes",
            minutes <= 0 ? "The end lies before the start: give 1 minute or more." : $"Give whole minutes, 1 to {MostMinutes}."
        );
        return 0;
    }

    private static string? Word(string? text) => string.IsNullOrWhiteSpace(text) ? null : text.Trim();
}
