namespace VelvetGate.Core.House;

/// <summary>What stays on when somebody leaves a machine: who comes next decides. Source: common practice.</summary>
public static class LeftOn
{
    public const string ForTheNext = "Extraction off after its run-on; cooling and computer stay on for whoever comes next";

    public const string Nothing =
        "Nobody comes after you today: extraction off after its run-on, machine and cooling by the maker’s manual, computer off";
}
