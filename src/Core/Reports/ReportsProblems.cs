namespace VelvetGate.Core.Reports;

/// <summary>What the reports refuse, each once.</summary>
public static class ReportsProblems
{
    public static readonly Problem Backwards = new("use.backwards", ProblemKind.Invalid, "The last day lies before the first.");
    public static readonly Problem TooLong = new("use.tooLong", ProblemKind.Invalid, "Ask for {0} days or fewer at once.");
    public static readonly Problem WhatIfRules = new(
        "whatIf.rules",
        ProblemKind.Invalid,
        "Say under “rules” what would differ, by the names of the house rules."
    );
    public static readonly Problem WhatIfSame = new("whatIf.same", ProblemKind.Invalid, "Nothing differs from the rules that hold now.");
    public static readonly Problem WhatIfMany = new(
        "whatIf.many",
        ProblemKind.Unprocessable,
        "More than {0} bookings and tries fall into these days. Take fewer."
    );
}
