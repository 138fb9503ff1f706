using VelvetGate.Store.Db;

namespace VelvetGate.Store.Ledger;

/// <summary>What the server could not do by itself.</summary>
public sealed class ParkedTasks : IStewardTasks
{
    public IReadOnlyList<string> Sql { get; } =
    [TaskSql.Of("workParked", "w.subject", "w.at", $"web.parked w where {TaskSql.Everybody}", details: "w.why")];
}
