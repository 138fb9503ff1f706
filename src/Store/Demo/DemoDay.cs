using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Booking;
using VelvetGate.Store.House;
using VelvetGate.Store.Upkeep;

namespace VelvetGate.Store.Demo;

/// <summary>
/// Wakes the demo house at each start: it is afternoon, a steward is on duty, somebody is at Swift, Heron and Wren are free for a while.
/// </summary>
public sealed class DemoDay(NpgsqlDataSource db)
{
    private static readonly LocalTime Wakes = new(14, 10);
    private static readonly LocalTime TooLate = new(18, 30);
    private static readonly Duration Free = Duration.FromMinutes(90);
    private const int RotaDays = 14;

    private readonly HouseRules _rules = DemoHouse.Rules;

    /// <summary>
    /// The instant the demo goes on at: ten past two of today, or just after what was last written down, and never earlier than that.
    /// </summary>
    /// <param name="real">Real time.</param>
    public async Task<Instant> Wake(Instant real, CancellationToken cancel)
    {
        var last = await Last(cancel);
        var at = Instant.Max(Afternoon(real), last + Duration.FromSeconds(1));
        // Towards closing nothing much happens any more: the next day then.
        if (_rules.Clock.At(at).TimeOfDay > TooLate || _rules.Clock.At(at).TimeOfDay < Wakes)
            at = NextWaking(at);
        var quarter = at - Duration.FromTicks(at.ToUnixTimeTicks() % Duration.FromMinutes(15).BclCompatibleTicks);
        var made = Instant.Max(last + Duration.FromSeconds(1), quarter - Duration.FromMinutes(5));
        await ExtendRota(made, cancel);
        await KeepUp(made, cancel);
        if (await Seat(made, cancel) is { } start)
            at = Instant.Max(at, start + Duration.FromMinutes(5));
        await FreeMachines(["heron", "wren"], at, at + Free, at, cancel);
        return at;
    }

    /// <summary>Ten past two of the day it is at that house.</summary>
    public static Instant Afternoon(Instant real) =>
        DemoHouse.Rules.Clock.Between(DemoHouse.Rules.Clock.DateOf(real), Wakes, Wakes.PlusMinutes(1)).Start;

    private Instant NextWaking(Instant after)
    {
        var local = _rules.Clock.At(after);
        var day = local.TimeOfDay < Wakes ? local.Date : local.Date.PlusDays(1);
        return _rules.Clock.Between(day, Wakes, Wakes.PlusMinutes(1)).Start;
    }

    private async Task<Instant> Last(CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var text = await connection.ExecuteScalarAsync<string>(
            new CommandDefinition("select max(at) from ledger.entry", cancellationToken: cancel)
        );
        return NodaTime.Text.InstantPattern.ExtendedIso.Parse(text ?? "1970-01-01T00:00:00Z").Value;
    }

    /// <summary>The rota as the seed wrote it, for weeks to come where it ran out.</summary>
    private async Task ExtendRota(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        var until = await connection.ExecuteScalarAsync<Instant?>(
            new CommandDefinition("select max(upper(during)) from house.duty where upper_inf(recorded)", cancellationToken: cancel)
        );
        var first = LocalDate.Max(
            _rules.Clock.DateOf(now),
            until is { } end ? _rules.Clock.DateOf(end).PlusDays(1) : LocalDate.MinIsoValue
        );
        if (first > _rules.Clock.DateOf(now).PlusDays(RotaDays))
            return;
        await DemoSeed.WriteRota(new CalendarStore(db), _rules, first, _rules.Clock.DateOf(now).PlusDays(RotaDays + 7), now, cancel);
    }

    /// <summary>
    /// What a house that went on would have done meanwhile: machines that stood for long are looked at, and what is overdue is done. What
    /// was overdue when the demo was written stays so: it shows what that looks like.
    /// </summary>
    private async Task KeepUp(Instant now, CancellationToken cancel)
    {
        var (breaks, upkeep) = (new BreakStore(db), new UpkeepStore(db));
        var used = await breaks.LastUse(now, cancel);
        PersonId steward = DemoSeed.Id(1);
        foreach (var machine in DemoHouse.Machines)
        {
            var (ran, looked) = used[machine.Id];
            if (Breaks.IsAfter(new[] { ran, looked }.Max(), now, _rules))
                await breaks.Check(machine.Id, LookedAt(machine), steward, now, cancel);
        }
        foreach (var task in await upkeep.All(null, _rules, now, cancel))
        {
            if (!task.Stand.Overdue || task.Plan.IsByUse || task.Plan.Counter == UpkeepCounter.Airflow)
                continue;
            foreach (PersonId by in (PersonId[])[steward, DemoSeed.Id(2)])
            {
                if ((await upkeep.Done(task.Id, new(null, null, null), by, _rules, now, cancel)).IsOk)
                    break;
            }
        }
    }

    private static BreakCheck LookedAt(MachineSpec machine) =>
        new(
            Interlocks: true,
            Outlet: true,
            Kit: true,
            AirflowM3PerHour: decimal.Round(machine.AirflowM3PerHour * 0.95m),
            CoolantC: machine.WaterCooled ? 19 : null
        );

    /// <summary>Somebody who may run Swift alone comes to it, by the gate.</summary>
    /// <returns>When their time began; null when somebody is there already, or nobody may.</returns>
    private async Task<Instant?> Seat(Instant made, CancellationToken cancel)
    {
        var bookings = new BookingStore(db);
        var quarter = Duration.FromMinutes(15);
        var start = made + quarter - Duration.FromTicks(made.ToUnixTimeTicks() % quarter.BclCompatibleTicks);
        if (
            (await bookings.Between(made, start + quarter, null, cancel)).Any(b =>
                b.MachineId == "swift" && b.ArrivedAt is not null && b.End > start + quarter
            )
        )
            return null;
        await FreeMachines(["swift"], start, start + Free, made, cancel);
        await using var connection = await db.OpenConnectionAsync(cancel);
        var people = (
            await connection.QueryAsync<string>(
                new CommandDefinition(
                    """
                    select c.person_id from training.certificate c join people.person p on p.id = c.person_id
                    where c.authority = 'swift' and c.held @> @start and upper_inf(c.recorded) and p.sign_in_name is null
                    order by lower(c.held) desc, c.person_id
                    """,
                    new { start },
                    cancellationToken: cancel
                )
            )
        ).ToList();
        foreach (var person in people)
        {
            var ask = new GateQuestion(
                MemberId: person,
                MachineId: "swift",
                Items: [new GateItem("mat-board", 1.4m, [Operation.Cut], RunMinutes: 12)],
                Fixture: null,
                SupervisorId: null,
                Start: start,
                Minutes: 60
            );
            var id = Guid.NewGuid();
            if (await bookings.Book(id, ask, person, made, cancel) is not BookingOutcome.Booked)
                continue;
            await bookings.Arrive(id, person, false, start + Duration.FromMinutes(2), cancel);
            return start;
        }
        return null;
    }

    /// <summary>Takes back what nobody who signs in to the demo has booked there.</summary>
    private async Task FreeMachines(MachineId[] machines, Instant from, Instant until, Instant now, CancellationToken cancel)
    {
        var bookings = new BookingStore(db);
        await using var connection = await db.OpenConnectionAsync(cancel);
        var own = (
            await connection.QueryAsync<PersonId>(
                new CommandDefinition("select id from people.person where sign_in_name is not null", cancellationToken: cancel)
            )
        ).ToHashSet();
        foreach (var booking in await bookings.Between(from, until, null, cancel))
        {
            if (machines.Contains(booking.MachineId) && !own.Contains(booking.PersonId) && booking.End > now)
                await bookings.Cancel(booking.Id, booking.PersonId, false, "Something came up.", now, cancel);
        }
    }
}
