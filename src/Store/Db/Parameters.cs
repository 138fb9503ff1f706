using System.Collections.Concurrent;
using System.Reflection;
using System.Text.RegularExpressions;
using NodaTime;
using Npgsql;
using NpgsqlTypes;

namespace VelvetGate.Store.Db;

/// <summary>
/// Statements of a batch with their values. The driver would read the text of a statement with named parameters again each time; here the
/// names are turned into places once, which a batch of fifteen statements feels.
/// </summary>
internal static partial class Parameters
{
    private static readonly ConcurrentDictionary<string, Placed> Statements = new();
    private static readonly ConcurrentDictionary<Type, IReadOnlyList<(string Name, PropertyInfo Property, NpgsqlDbType Type)>> Shapes =
        new();

    /// <summary>Values by name, whatever the case of its letters.</summary>
    /// <exception cref="NotSupportedException">A property is of a type that no statement takes yet.</exception>
    public static IReadOnlyDictionary<string, (NpgsqlDbType Type, object Value)> Of(object? parameters)
    {
        var values = new Dictionary<string, (NpgsqlDbType, object)>(StringComparer.OrdinalIgnoreCase);
        if (parameters is null)
            return values;
        foreach (var (name, property, type) in Shapes.GetOrAdd(parameters.GetType(), Shape))
            values[name] = (type, Plain(property.GetValue(parameters)));
        return values;
    }

    /// <exception cref="KeyNotFoundException">The statement takes what has no value.</exception>
    public static NpgsqlBatchCommand Fill(string sql, IReadOnlyDictionary<string, (NpgsqlDbType Type, object Value)> values)
    {
        var placed = Statements.GetOrAdd(sql, Place);
        var command = new NpgsqlBatchCommand(placed.Sql);
        foreach (var name in placed.Names)
        {
            var (type, value) = values[name];
            command.Parameters.Add(new NpgsqlParameter { NpgsqlDbType = type, Value = value });
        }
        return command;
    }

    private static Placed Place(string sql)
    {
        var names = new List<string>();
        var text = Named()
            .Replace(sql, match =>
            {
                var at = names.FindIndex(n => n.Equals(match.Groups[1].Value, StringComparison.OrdinalIgnoreCase));
                if (at < 0)
                {
                    at = names.Count;
                    names.Add(match.Groups[1].Value);
                }
                return $"${at + 1}";
            });
        return new Placed(text, names);
    }

    private static IReadOnlyList<(string Name, PropertyInfo Property, NpgsqlDbType Type)> Shape(Type type) =>
        [.. type.GetProperties().Where(p => p.GetIndexParameters().Length == 0).Select(p => (p.Name, p, Kind(p.PropertyType)))];

    private static NpgsqlDbType Kind(Type type)
    {
        if (type.IsArray)
            return NpgsqlDbType.Array | Kind(type.GetElementType()!);
        type = Nullable.GetUnderlyingType(type) ?? type;
        return type switch
        {
            _ when type == typeof(string) || type.IsAssignableTo(typeof(IId)) => NpgsqlDbType.Text,
            _ when type == typeof(Instant) => NpgsqlDbType.TimestampTz,
            _ when type == typeof(LocalDate) => NpgsqlDbType.Date,
            _ when type == typeof(Guid) => NpgsqlDbType.Uuid,
            _ when type == typeof(bool) => NpgsqlDbType.Boolean,
            _ when type == typeof(int) => NpgsqlDbType.Integer,
            _ => throw new NotSupportedException($"No statement of a batch takes {type} yet."),
        };
    }

    private static object Plain(object? value) =>
        value switch
        {
            null => DBNull.Value,
            IId id => id.Value,
            Array list when list.GetType().GetElementType()!.IsAssignableTo(typeof(IId)) => list.Cast<IId>().Select(i => i.Value).ToArray(),
            _ => value,
        };

    [GeneratedRegex(@"@([A-Za-z_]\w*)")]
    private static partial Regex Named();

    /// <param name="Names">In the order of their places.</param>
    private sealed record Placed(string Sql, IReadOnlyList<string> Names);
}
