using System.Globalization;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Settings;

namespace VelvetGate.Core.Station;

/// <summary>
/// A repairer’s key takes the controller out of the circuit: from then on nothing of ours takes the beam away, and the screen says what
/// then holds. Sources: IEC 60825-1 and IEC TR 60825-14 (service makes a closed machine class 4), from memory; common practice.
/// </summary>
public static class ServiceKey
{
    public const string Out = "The service key was out: covers and lid switch may have been open. Try lid switch and stops before it runs.";

    public static IReadOnlyList<string> Says(MachineSpec machine) =>
        [
            "The service key is out: this screen and its controller take no beam away.",
            "Laser area, class 4: door shut, sign up, a second person present.",
            EyewearMath.RequiredOpticalDensity((double)machine.PowerW, machine.WavelengthNm) is { } density
                ? string.Create(
                    CultureInfo.InvariantCulture,
                    $"Eyewear of optical density {density:0.#} or more at {machine.WavelengthNm} nm, whole and clean, on everybody there."
                )
                : $"Eyewear for {machine.WavelengthNm} nm as the maker’s manual says, on everybody there.",
            "Then the key back, covers on, lid switch and each stop tried. The repairer returns it to service.",
        ];
}
