using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Machines;

namespace VelvetGate.Store.Demo;

/// <summary>How the machines of the invented house were set up, and when their interlocks were tried since.</summary>
public sealed partial class DemoSeed
{
    private const int TrialEachDays = 90;

    /// <summary>How many days ago the interlocks were last tried; each quarter before.</summary>
    private static readonly (string Machine, int DaysAgo)[] Trials = [("heron", 45), ("wren", 30), ("swift", 62), ("kestrel", 80)];

    private async Task WriteSetUps(NpgsqlConnection connection, NpgsqlTransaction transaction)
    {
        foreach (var machine in DemoHouse.Machines)
            await connection.ExecuteAsync(
                """
                insert into house.commissioning (machine_id, sheet, set_by, held, recorded)
                values (@Id, @sheet::jsonb, @by, tstzrange(@from, null), tstzrange(@from, null))
                """,
                new
                {
                    machine.Id,
                    sheet = GateJson.Write(SetUpOf(machine, _rules.Clock.DateOf(_founded))),
                    by = Id(1),
                    from = _founded,
                },
                transaction
            );
        foreach (var (machine, daysAgo) in Trials)
            for (var days = daysAgo; now - Duration.FromDays(days) > _founded; days += TrialEachDays)
                await connection.ExecuteAsync(
                    "insert into upkeep.interlock_trial (id, machine_id, at, by) values (gen_random_uuid(), @machine, @at, @by)",
                    new
                    {
                        machine,
                        at = now - Duration.FromDays(days),
                        by = Id(3),
                    },
                    transaction
                );
    }

    /// <summary>All of it is shown, but how dense the window of one machine is.</summary>
    private static CommissioningSheet SetUpOf(MachineSpec machine, LocalDate on) =>
        new(
            On: on,
            By: "the keeper, with the seller’s fitter",
            Wiring: "by the house electrician, report in the office",
            InterlocksOn: on,
            MakersGone: true,
            RelayGone: true,
            WiredBy: "the seller’s fitter",
            Consent: "the maker’s, letter in the office",
            ClassAnew: $"by the laser safety officer: {machine.LaserClass}",
            WindowNm: machine.WavelengthNm,
            WindowOd: machine.Id == "kestrel" ? null : 6,
            AirflowHow: "vane meter at the outlet, by the extraction engineer, fan at full",
            InwardMS: 0.6m,
            Route: machine.Extraction == Extraction.Filtered ? "" : "4 m of steel duct to above the roof ridge",
            Stages: machine.Extraction == Extraction.Filtered
                ? [new("particle filter", "600 h"), new("carbon", "100 h"), new("fan", "20,000 h")]
                : [new("fan", "20,000 h")],
            Level: true
        );
}
