using System.Text.RegularExpressions;

namespace VelvetGate.Core.Station.Controllers;

/// <summary>Which controller may be bound to a machine.</summary>
public static partial class ControllerDoor
{
    /// <param name="known">The serial was enrolled before, revoked or not.</param>
    /// <param name="bound">Serial that the machine is bound to; null for none.</param>
    public static Refusal? MayEnrol(string serial, bool known, string? bound) =>
        !Serial().IsMatch(serial) ? StationProblems.ControllerSerial.Refuse("serial")
        : bound is not null ? StationProblems.ControllerBound.Refuse(null, bound)
        : known ? StationProblems.ControllerKnown.Refuse("serial", serial)
        : null;

    [GeneratedRegex("^[a-z0-9-]{3,40}$")]
    private static partial Regex Serial();
}
