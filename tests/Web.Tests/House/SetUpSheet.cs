namespace VelvetGate.Web.Tests;

/// <summary>A commissioning sheet with nothing left open, as a keeper types it.</summary>
internal static class SetUpSheet
{
    public static Dictionary<string, object> Whole { get; } =
        new()
        {
            ["on"] = "2026-11-20",
            ["by"] = "the keeper, with the seller’s fitter",
            ["wiring"] = "by the house electrician, report 14",
            ["interlocksOn"] = "2026-11-20",
            ["makersGone"] = true,
            ["relayGone"] = true,
            ["wiredBy"] = "the seller’s fitter",
            ["consent"] = "the maker’s letter",
            ["classAnew"] = "the laser safety officer: 1",
            ["windowNm"] = 10600,
            ["windowOd"] = 6,
            ["airflowHow"] = "vane meter, fan at full",
            ["inwardMS"] = "0.6",
            ["route"] = "4 m of duct above the ridge",
            ["stages"] = new[] { new { stage = "fan", lasts = "20,000 h" } },
            ["level"] = true,
        };
}
