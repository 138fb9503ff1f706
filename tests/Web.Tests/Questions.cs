namespace VelvetGate.Web.Tests;

/// <summary>Questions for the gate as a script would send them.</summary>
internal static class Questions
{
    /// <summary>The member's cleared plywood on Heron: open but for what only the machine shows.</summary>
    public static Dictionary<string, object?> Open(string start) =>
        new()
        {
            ["memberId"] = "m-4",
            ["machineId"] = "heron",
            ["materialId"] = "birch-ply-laser",
            ["thicknessMm"] = 3,
            ["operations"] = new[] { "cut" },
            ["sheetTag"] = "S-0097",
            ["runMinutes"] = 18,
            ["start"] = start,
            ["minutes"] = 75,
        };

    public static Dictionary<string, object?> With(this Dictionary<string, object?> question, string field, object? value)
    {
        var changed = new Dictionary<string, object?>(question) { [field] = value };
        if (value is null)
            changed.Remove(field);
        return changed;
    }

    /// <summary>The first start, quarter by quarter from tomorrow, for which the question is open.</summary>
    public static async Task<string> FreeStart(
        this Api api,
        Func<Dictionary<string, object?>, Dictionary<string, object?>>? change = null,
        int fromDay = 1
    )
    {
        for (var quarter = 0; quarter < 6 * 96; quarter++)
        {
            var start = WebHouse.At(fromDay + quarter / 44, 10 + quarter % 44 / 4, quarter % 4 * 15);
            var answer = await api.Post("/api/gate/ask?soonest=false", (change ?? (q => q))(Open(start)));
            if (answer.Verdict is "open" or "conditions")
                return start;
        }
        throw new InvalidOperationException("No free time in six days.");
    }
}
