using VelvetGate.Core.House;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Tests.Gating;

namespace VelvetGate.Core.Tests.Settings;

/// <summary>A setting for Heron that is as it should be.</summary>
internal static class SettingCase
{
    public static SettingValues Cut(decimal mm = 3, SettingOrigin origin = SettingOrigin.Member) =>
        new(
            MachineId: GateCase.Heron.Id,
            MaterialId: "birch-ply-laser",
            ThicknessMm: mm,
            Operation: Operation.Cut,
            PowerPercent: 60,
            Watts: 48,
            SpeedMmS: 23,
            Passes: 1,
            FrequencyHz: 500,
            PitchMm: null,
            Offsets: [],
            FocusOffsetMm: 0,
            FanLevel: 2,
            AirAssist: true,
            Fixture: "",
            Mask: Mask.None,
            MaskOf: "",
            Origin: origin,
            Note: ""
        );
}
