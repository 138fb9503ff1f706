using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.House;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Upkeep;
using VelvetGate.Store.Upkeep;

namespace VelvetGate.Store.Demo;

/// <summary>Upkeep of the invented house: what is due, what was read, and a fault that can be worked with.</summary>
public sealed partial class DemoSeed
{
    /// <summary>How far each task is, as a part of its limit; the mirrors of one machine are overdue.</summary>
    private static readonly (string Machine, UpkeepPlan Plan, decimal Part)[] Tasks =
    [
        ("heron", UpkeepMethods.Mirrors, 0.86m),
        ("heron", UpkeepMethods.Lens, 0.6m),
        ("heron", UpkeepMethods.Bed, 0.4m),
        ("heron", UpkeepMethods.Airflow, 0),
        ("heron", UpkeepMethods.Coolant, 0.45m),
        ("heron", UpkeepMethods.Interlocks, 0.5m),
        ("heron", UpkeepMethods.Electrical, 0.4m),
        ("wren", UpkeepMethods.Mirrors, 0.5m),
        ("wren", UpkeepMethods.Bed, 0.7m),
        ("wren", UpkeepMethods.Airflow, 0),
        ("wren", UpkeepMethods.Carbon, 0.8m),
        ("wren", UpkeepMethods.Coolant, 0.3m),
        ("wren", UpkeepMethods.Interlocks, 0.33m),
        ("swift", UpkeepMethods.Lens, 0.5m),
        ("swift", UpkeepMethods.Airflow, 0),
        ("swift", UpkeepMethods.Carbon, 0.4m),
        ("swift", UpkeepMethods.Electrical, 0.75m),
        ("swift", UpkeepMethods.Interlocks, 0.68m),
        ("kestrel", UpkeepMethods.Mirrors, 1.2m),
        ("kestrel", UpkeepMethods.Filter, 0.5m),
        ("kestrel", UpkeepMethods.Interlocks, 0.88m),
    ];

    private async Task WriteUpkeep()
    {
        await using var connection = await db.OpenConnectionAsync();
        foreach (var (machine, plan, part) in Tasks)
            await WriteTask(connection, machine, plan, part);
        await WriteTask(
            connection,
            null,
            new UpkeepPlan(
                Name: "Fire kit and eyewear: look at each",
                Part: UpkeepPart.FireKit,
                Counter: UpkeepCounter.Days,
                Limit: 30,
                SlipPercent: 10,
                Who: UpkeepWho.Trainer,
                Steps: ["Each item is there, sealed, in date and whole.", "Scratched eyewear is taken away."],
                Kit: "The list of the house",
                Basis: "A starting value; the insurer may want it oftener."
            ),
            0.8m
        );
        // Read each Tuesday, by whoever trains there.
        foreach (
            var (machine, by, first, last) in ((string, int, decimal, decimal)[])
                [("heron", 2, 0.97m, 0.93m), ("wren", 2, 0.97m, 0.87m), ("swift", 8, 0.98m, 0.96m)]
        )
        {
            var whole = DemoHouse.Machines.Single(m => m.Id == machine).AirflowM3PerHour;
            for (var week = 8; week >= 0; week--)
                await connection.ExecuteAsync(
                    "insert into upkeep.reading (id, machine_id, at, by, airflow) values (gen_random_uuid(), @machine, @at, @by, @airflow)",
                    new
                    {
                        machine,
                        by = Id(by),
                        at = now - Duration.FromDays(7 * week) - Duration.FromMinutes(45),
                        airflow = decimal.Round(whole * (last + (first - last) * week / 8)),
                    }
                );
        }
        await WriteStock(connection);
        await WriteLooks(connection);
        await new FaultStore(db).Tell(
            "kestrel",
            Symptoms.Find("notThrough"),
            false,
            "Twice on card, with the settings of the library.",
            Id(12),
            now - Duration.FromDays(1),
            default
        );
    }

    private static readonly (Consumable What, decimal Stock, string Batch)[] Shelf =
    [
        (Stuff("Carbon for Wren", "fills", UpkeepPart.Carbon, "wren", "closed bag at the machine, then hazardous waste", 1), 1, "C-2207"),
        (Stuff("Cotton buds", "boxes", UpkeepPart.Mirrors, null, "lidded bin, soaked in water first", 2), 5, ""),
        (
            Stuff("Distilled water", "l", UpkeepPart.Coolant, null, "old coolant with antifreeze: chemical waste, never the drain", 10),
            20,
            "W-114"
        ),
        (
            Stuff("Lens 2 in, zinc selenide", "pieces", UpkeepPart.Lens, "heron", "toxic dust when broken: sealed bag, safety office", 1),
            2,
            "L-88"
        ),
        (Stuff("Laser tube 60 W", "pieces", UpkeepPart.Other, "heron", "spent tube through the safety office", 0), 1, "T-301"),
    ];

    private static Consumable Stuff(string name, string unit, UpkeepPart part, string? machine, string waste, decimal reorder) =>
        new(
            Name: name,
            Unit: unit,
            Part: part,
            MachineId: machine is null ? (MachineId?)null : MachineId.From(machine),
            Place: "grey cupboard, lower shelf",
            Supplier: "the house’s usual supplier",
            Reorder: reorder,
            Waste: waste
        );

    private async Task WriteStock(NpgsqlConnection connection)
    {
        foreach (var (what, stock, batch) in Shelf)
            await connection.ExecuteAsync(
                """
                with c as (insert into upkeep.consumable (id, name, unit, part, machine_id, place, supplier, reorder, waste)
                    values (gen_random_uuid(), @Name, @Unit, @part, @MachineId, @Place, @Supplier, @Reorder, @Waste) returning id)
                insert into upkeep.stock (id, consumable_id, at, by, change, batch)
                select gen_random_uuid(), id, @at, @by, @stock, nullif(@batch, '') from c
                """,
                new
                {
                    what.Name,
                    what.Unit,
                    part = UpkeepCounting.Word(what.Part!.Value),
                    what.MachineId,
                    what.Place,
                    what.Supplier,
                    what.Reorder,
                    what.Waste,
                    at = now - Duration.FromDays(40),
                    by = Id(2),
                    stock,
                    batch,
                }
            );
    }

    /// <summary>The round of last month: each item was in order.</summary>
    private Task WriteLooks(NpgsqlConnection connection) =>
        connection.ExecuteAsync(
            """
            insert into upkeep.kit_look (id, item_id, eyewear, at, by)
            select gen_random_uuid(), id, eyewear, @at, @by from (select id, false as eyewear from house.fire_kit
                union all select id, true from house.eyewear) i
            """,
            new { at = now - Duration.FromDays(24), by = Id(2) }
        );

    private async Task WriteTask(NpgsqlConnection connection, string? machine, UpkeepPlan plan, decimal part)
    {
        // Airflow counts no days; it was looked into when the machines were last cleaned.
        var since = now - Duration.FromDays(plan.Counter == UpkeepCounter.Airflow ? 49 : (double)(plan.Limit * part));
        if (plan.IsByUse)
            (since, plan) = await SinceUse(connection, machine!, plan, part);
        var due =
            plan.Counter == UpkeepCounter.Days ? UpkeepUse.DayDue(since, plan.Limit, _rules.Clock)
            : part >= 1 ? now - Duration.FromDays(2)
            : (Instant?)null;
        await connection.ExecuteAsync(
            """
            with closed as (update upkeep.task set recorded = tstzrange(lower(recorded), greatest(@now, lower(recorded)))
                where id = @id and upper_inf(recorded) returning id)
            insert into upkeep.task (id, machine_id, name, plan, since, due_from, overdue_from, held, recorded)
            select @id, @machine, @Name, @body::jsonb, @since, @due::timestamptz, @overdue::timestamptz, tstzrange(@since, null),
                tstzrange(case when exists (select from closed) then @now else @since end, null)
            """,
            new
            {
                id = $"{machine ?? "room"}-{UpkeepCounting.Word(plan.Part).ToLowerInvariant()}",
                machine,
                plan.Name,
                body = GateJson.Write(plan),
                since,
                due,
                now,
                overdue = plan.Counter == UpkeepCounter.Days ? UpkeepUse.DayDue(since, plan.Overdue, _rules.Clock) : due,
            }
        );
    }

    /// <summary>Since when so much of the limit was run; where the machine ran too little for it, its maker’s figure is less.</summary>
    private static async Task<(Instant Since, UpkeepPlan Plan)> SinceUse(
        NpgsqlConnection connection,
        string machine,
        UpkeepPlan plan,
        decimal part
    )
    {
        var runs = await connection.QueryAsync<(Instant Start, Instant End, bool Heavy)>(
            """
            select lower(r.during), upper(r.during), m.heavy_residue from run.log r join materials.material m on m.id = r.material_id
            where r.machine_id = @machine order by upper(r.during) desc
            """,
            new { machine }
        );
        var sums = RunSums.Nothing;
        var since = Instant.FromUtc(2026, 1, 1, 0, 0);
        foreach (var (start, end, heavy) in runs)
        {
            var hours = (decimal)(end - start).TotalHours;
            sums = new(sums.Runs + 1, sums.PlainHours + (heavy ? 0 : hours), sums.HeavyHours + (heavy ? hours : 0));
            since = start;
            if (sums.By(plan.Counter, HouseRules.UsualResidueWeight) >= plan.Limit * part)
                return (since, plan);
        }
        var used = sums.By(plan.Counter, HouseRules.UsualResidueWeight);
        return (since, plan with { Limit = Math.Max(1, decimal.Floor(used / part)), Basis = "The maker’s manual." });
    }
}
