using System.Data;
using Dapper;
using NodaTime;
using Npgsql;
using NpgsqlTypes;

namespace VelvetGate.Store.Db;

/// <summary>Teaches Dapper NodaTime's types. Without this it silently reads an Instant as 1970.</summary>
public static class DapperTypes
{
    private static readonly Lock Gate = new();
    private static bool _done;

    public static void Register()
    {
        lock (Gate)
        {
            if (_done)
                return;
            DefaultTypeMap.MatchNamesWithUnderscores = true;
            SqlMapper.AddTypeHandler(new Plain<Instant>(NpgsqlDbType.TimestampTz));
            SqlMapper.AddTypeHandler(new Plain<LocalDate>(NpgsqlDbType.Date));
            SqlMapper.AddTypeHandler(new Plain<LocalTime>(NpgsqlDbType.Time));
            SqlMapper.AddTypeHandler(new Plain<Instant[]>(NpgsqlDbType.Array | NpgsqlDbType.TimestampTz));
            SqlMapper.AddTypeHandler(new Plain<LocalDate[]>(NpgsqlDbType.Array | NpgsqlDbType.Date));
            SqlMapper.AddTypeHandler(new Plain<Interval>(NpgsqlDbType.TimestampTzRange));
            SqlMapper.AddTypeHandler(new Plain<string[]>(NpgsqlDbType.Array | NpgsqlDbType.Text));
            _done = true;
        }
    }

    private sealed class Plain<T>(NpgsqlDbType type) : SqlMapper.TypeHandler<T>
    {
        public override void SetValue(IDbDataParameter parameter, T? value)
        {
            ((NpgsqlParameter)parameter).NpgsqlDbType = type;
            parameter.Value = value is null ? DBNull.Value : value;
        }

        public override T Parse(object value) =>
            value switch
            {
                T already => already,
                _ => throw new DataException($"{value.GetType()} came where {typeof(T)} was wanted."),
            };
    }
}
