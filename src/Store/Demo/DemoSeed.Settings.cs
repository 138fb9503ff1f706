using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.TestPieces;
using VelvetGate.Store.Settings;

namespace VelvetGate.Store.Demo;

/// <summary>The house's library: technicians' settings, members', and a maker's that was never tried here.</summary>
public sealed partial class DemoSeed
{
    private readonly List<(Guid Id, SettingValues Values)> _settings = [];
    private readonly Random _settingIds = new(26);

    private void AddSettings(List<(Instant At, Func<Task> Do)> steps)
    {
        var first = now - Duration.FromDays(58);
        Add(first, 2, Cut("heron", "birch-ply-laser", 3.0m, 60, 48, 23) with { FrequencyHz = 500, FanLevel = 2, Fixture = "cutting grid" });
        Add(
            first,
            2,
            Cut("heron", "birch-ply-laser", 6.0m, 85, 68, 16, 2) with
            {
                FrequencyHz = 500,
                FanLevel = 3,
                Fixture = "cutting grid",
            }
        );
        Add(
            first,
            2,
            Cut("heron", "acrylic-clear", 3.0m, 70, 56, 20) with
            {
                Mask = Mask.Dry,
                MaskOf = "paper",
                Note = "Leave the film on; lid shut until the air is clear.",
            }
        );
        Add(first, 2, Cut("wren", "birch-ply-laser", 3.0m, 75, 30, 14));
        Add(first, 2, Cut("swift", "mat-board", 1.4m, 40, 4, 6));
        Add(
            first,
            2,
            Cut("heron", "birch-ply-laser", 3.0m, 25, 20, 400) with
            {
                Operation = Operation.Engrave,
                PitchMm = 0.1m,
                Offsets = [0, -10, 10],
                Note = "Offsets are for the grey of photographs.",
            }
        );
        Add(now - Duration.FromDays(13), 4, Cut("heron", "birch-ply-laser", 3.2m, 70, 56, 24, 1, SettingOrigin.Member));
        Add(
            now - Duration.FromDays(7),
            7,
            Cut("heron", "birch-ply-laser", 4.0m, 60, 48, 16, 1, SettingOrigin.Member) with
            {
                Mask = Mask.Damp,
                MaskOf = "paper",
                Note = "Damp tape: hardly any smudge.",
            }
        );
        Add(first, 2, Cut("heron", "birch-ply-laser", 6.35m, 90, 72, 12, 1, SettingOrigin.Maker));

        AddPieces(steps);

        void Add(Instant at, int by, SettingValues values)
        {
            var id = OwnId();
            _settings.Add((id, values));
            steps.Add((at, async () => await new SettingStore(db).Add(id, values, Id(by), at, default)));
        }
    }

    private Guid OwnId()
    {
        var bytes = new byte[16];
        _settingIds.NextBytes(bytes);
        return new Guid(bytes);
    }

    /// <summary>A cut row that was told, of which nothing was kept, and one that waits to be told.</summary>
    private void AddPieces(List<(Instant At, Func<Task> Do)> steps)
    {
        var store = new TestPieceStore(db);
        var (told, waiting) = (OwnId(), OwnId());
        var row = Row(Cut("heron", "mdf", 3.0m, 70, 56, 18));
        var cells = row.Piece.Cells.Where(c => c.JPerMm is not null).ToList();
        var at = now - Duration.FromDays(9);
        steps.Add((at, () => store.Add(told, row, "S-0105", Id(2), at, default)));
        steps.Add((at + Duration.FromMinutes(25), async () =>
            {
                var results = cells
                    .Select((c, i) => new CellResult((double)c.JPerMm!.Value, Through: i * 2 >= cells.Count, Charred: i + 2 >= cells.Count))
                    .ToList();
                var kept = (await store.Find(told, default))!;
                await store.Tell(kept, new PieceTold(results, null, null), null, Id(2), at + Duration.FromMinutes(25), default);
            }));
        var yesterday = now - Duration.FromHours(20);
        steps.Add(
            (yesterday, () =>
                store.Add(waiting, Row(Cut("heron", "birch-ply-laser", 3.0m, 60, 48, 23)), "S-0097", Id(3), yesterday, default)
            )
        );
    }

    private static MadePiece Row(SettingValues around)
    {
        var machine = DemoHouse.Machines.Single(m => m.Id == around.MachineId);
        var from = new GuessedSetting(around.Watts, around.PowerPercent, around.SpeedMmS, around.Passes, null, "");
        return new MadePiece(
            TestPieceMaker.Make(new TestPieceWish(TestPieceKind.Cut, around.ThicknessMm, from, machine.TopSpeedMmS, machine.KerfMm)),
            around
        );
    }

    private static SettingValues Cut(
        string machine,
        string material,
        decimal mm,
        decimal percent,
        decimal watts,
        decimal speed,
        int passes = 1,
        SettingOrigin origin = SettingOrigin.Technician
    ) =>
        new(
            MachineId: machine,
            MaterialId: material,
            ThicknessMm: mm,
            Operation: Operation.Cut,
            PowerPercent: percent,
            Watts: watts,
            SpeedMmS: speed,
            Passes: passes,
            FrequencyHz: null,
            PitchMm: null,
            Offsets: [],
            FocusOffsetMm: 0,
            FanLevel: null,
            AirAssist: true,
            Fixture: "",
            Mask: Mask.None,
            MaskOf: "",
            Origin: origin,
            Note: ""
        );

    /// <summary>The technician's setting that a run of the demo was made with; null where there is none.</summary>
    private Guid? SettingFor(MachineId machine, MaterialId material, decimal mm, IReadOnlyList<Operation> operations) =>
        _settings
            .Where(s =>
                s.Values.Origin == SettingOrigin.Technician
                && s.Values.MachineId == machine
                && s.Values.MaterialId == material
                && operations.Contains(s.Values.Operation)
                && Tested.IsNear(s.Values.ThicknessMm, mm)
            )
            .Select(s => (Guid?)s.Id)
            .FirstOrDefault();
}
