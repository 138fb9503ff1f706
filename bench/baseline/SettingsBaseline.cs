using Npgsql;

namespace VelvetGate.Bench.Baseline;

/// <summary>The entries of one material, as one statement. Frozen; shares no code with the application.</summary>
public static class SettingsBaseline
{
    /// <returns>Each entry, with how many of its runs came out clean.</returns>
    public static async Task<List<(Guid Id, string Body, int Clean)>> Of(NpgsqlDataSource db, string material)
    {
        await using var command = db.CreateCommand(
            """
            select s.id, s.body::text, (select count(*)::int from run.log l where l.setting_id = s.id and l.outcome = 'clean')
            from bench.setting s where s.material_id = $1 and s.ended_at is null order by s.number desc
            """);
        command.Parameters.AddWithValue(material);
        var found = new List<(Guid, string, int)>();
        await using var reader = await command.ExecuteReaderAsync();
        while (await reader.ReadAsync()) found.Add((reader.GetGuid(0), reader.GetString(1), reader.GetInt32(2)));
        return found;
    }
}
