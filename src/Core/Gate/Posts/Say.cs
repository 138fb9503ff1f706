using System.Globalization;
using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating.Posts;

/// <summary>Lengths and minutes as the person who asks reads them.</summary>
internal static class Say
{
    public static string Length(decimal mm, GateQuestion ask) => Kernel.Length.Show(mm, ask.ShowIn);

    public static string Size(decimal across, decimal down, GateQuestion ask) =>
        $"{Kernel.Length.Number(across, ask.ShowIn)} x {Length(down, ask)}";

    public static string Limit(decimal mm, GateQuestion ask) =>
        $"{Kernel.Length.Limit(mm, ask.ShowIn)} {ask.ShowIn.ToString().ToLowerInvariant()}";

    public static string Minutes(decimal minutes) => string.Create(CultureInfo.InvariantCulture, $"{minutes:0.##} min");

    public static string Verb(Operation operation) => operation.ToString().ToLowerInvariant();
}
