using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Store.Incidents;

/// <summary>One incident as its row stands; texts come from beside the record.</summary>
public sealed record IncidentRow(
    Guid Id,
    int Number,
    MachineId? MachineId,
    Instant At,
    Mishap What,
    Severity Severity,
    Guid? RunId,
    SheetTag? Tag,
    MaterialId? MaterialId,
    ToldFacts Facts,
    string? Seen,
    string? Damage,
    string? PutOut,
    string? MakerSays,
    string? Lesson,
    decimal? Cost,
    bool FireService,
    bool? Marked,
    LawReport Law,
    bool Hurt,
    bool CarriedOver,
    PersonId? ReportedBy,
    Instant ReportedAt,
    Instant? CausesAt,
    string? CausesNote,
    Instant? ClosedAt,
    PersonId? ClosedBy,
    string? CloseNote,
    int Version
)
{
    /// <summary>A named person watches after it, or did.</summary>
    public bool WantsAWatch => !CarriedOver && Mishaps.WantsAWatch(What, At, ReportedAt);

    private const string Columns = """
        select i.id, i.number, i.machine_id, i.at, i.what, i.severity, i.run_id, i.tag, i.material_id, i.facts::text as facts,
            s.body as seen, d.body as damage, p.body as put_out, m.body as maker_says, l.body as lesson, i.cost, i.fire_service, i.marked,
            i.law::text as law, i.hurt, i.carried_over, i.reported_by, i.reported_at, i.causes_at, c.body as causes_note, i.closed_at,
            i.closed_by, z.body as close_note, i.version
        from incidents.incident i
            left join ledger.text s on s.id = i.seen_text_id left join ledger.text d on d.id = i.damage_text_id
            left join ledger.text p on p.id = i.put_out_text_id left join ledger.text m on m.id = i.maker_text_id
            left join ledger.text l on l.id = i.lesson_text_id left join ledger.text c on c.id = i.causes_text_id
            left join ledger.text z on z.id = i.close_text_id
        """;

    internal static async Task<IReadOnlyList<IncidentRow>> Read(
        NpgsqlConnection connection,
        NpgsqlTransaction? transaction,
        string which,
        object values
    ) => [.. (await connection.QueryAsync<Raw>($"{Columns} {which}", values, transaction)).Select(r => r.Incident)];

    /// <summary>Locks it, so that of two who act at once the second sees what the first did.</summary>
    /// <returns>Null when there is no such incident.</returns>
    internal static async Task<IncidentRow?> Lock(NpgsqlConnection connection, NpgsqlTransaction transaction, Guid id)
    {
        await connection.ExecuteAsync("select 1 from incidents.incident where id = @id for update", new { id }, transaction);
        return (await Read(connection, transaction, "where i.id = @id", new { id })).SingleOrDefault();
    }

    private sealed record Raw(
        Guid Id,
        int Number,
        MachineId? MachineId,
        Instant At,
        string What,
        short Severity,
        Guid? RunId,
        SheetTag? Tag,
        MaterialId? MaterialId,
        string Facts,
        string? Seen,
        string? Damage,
        string? PutOut,
        string? MakerSays,
        string? Lesson,
        decimal? Cost,
        bool FireService,
        bool? Marked,
        string Law,
        bool Hurt,
        bool CarriedOver,
        PersonId? ReportedBy,
        Instant ReportedAt,
        Instant? CausesAt,
        string? CausesNote,
        Instant? ClosedAt,
        PersonId? ClosedBy,
        string? CloseNote,
        int Version
    )
    {
        public IncidentRow Incident =>
            new(
                Id: Id,
                Number: Number,
                MachineId: MachineId,
                At: At,
                What: Enum.Parse<Mishap>(What, ignoreCase: true),
                Severity: (Severity)Severity,
                RunId: RunId,
                Tag: Tag,
                MaterialId: MaterialId,
                Facts: GateJson.Read<ToldFacts>(Facts),
                Seen: Seen,
                Damage: Damage,
                PutOut: PutOut,
                MakerSays: MakerSays,
                Lesson: Lesson,
                Cost: Cost,
                FireService: FireService,
                Marked: Marked,
                Law: GateJson.Read<LawReport>(Law),
                Hurt: Hurt,
                CarriedOver: CarriedOver,
                ReportedBy: ReportedBy,
                ReportedAt: ReportedAt,
                CausesAt: CausesAt,
                CausesNote: CausesNote,
                ClosedAt: ClosedAt,
                ClosedBy: ClosedBy,
                CloseNote: CloseNote,
                Version: Version
            );
    }
}
