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
            AddId<PersonId>();
            AddId<MachineId>();
            AddId<MaterialId>();
            AddId<SheetTag>();
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

    private static void AddId<T>()
        where T : struct, IId<T>
    {
        SqlMapper.AddTypeHandler(typeof(T), new Id<T>());
        SqlMapper.AddTypeHandler(typeof(T[]), new IdList<T>());
    }

    /// <summary>Text is said to be text where it is null too, so that the server need not guess.</summary>
    private sealed class Id<T> : SqlMapper.ITypeHandler
        where T : struct, IId<T>
    {
        public void SetValue(IDbDataParameter parameter, object value)
        {
            ((NpgsqlParameter)parameter).NpgsqlDbType = NpgsqlDbType.Text;
            parameter.Value = value is T id ? id.Value : DBNull.Value;
        }

        public object Parse(Type destinationType, object value) => value is string text ? T.From(text) : throw Unread<T>(value);
    }

    private sealed class IdList<T> : SqlMapper.ITypeHandler
        where T : struct, IId<T>
    {
        public void SetValue(IDbDataParameter parameter, object value)
        {
            ((NpgsqlParameter)parameter).NpgsqlDbType = NpgsqlDbType.Array | NpgsqlDbType.Text;
            parameter.Value = value is T[] ids ? ids.Select(i => i.Value).ToArray() : DBNull.Value;
        }

        public object Parse(Type destinationType, object value) =>
            value is string[] texts ? texts.Select(T.From).ToArray() : throw Unread<T>(value);
    }

    private static DataException Unread<T>(object value) => new($"{value.GetType()} came where {typeof(T)} was wanted.");
}
