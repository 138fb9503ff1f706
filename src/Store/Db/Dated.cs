namespace VelvetGate.Store.Db;

/// <summary>
/// Facts on two axes: when they held (<c>held</c>), and when the house knew it (<c>recorded</c>). What ends is closed, and what stays
/// true of it is written anew; nothing is overwritten.
/// </summary>
internal static class Dated
{
    /// <summary>
    /// Known no longer from <c>@now</c> on. Two requests meet in another order than their clocks say: a row's record never ends before
    /// it began.
    /// </summary>
    public const string Closed = "recorded = tstzrange(lower(recorded), greatest(@now, lower(recorded)))";

    /// <summary>Ends what holds: closes the rows, and writes anew for how long they held.</summary>
    /// <param name="columns">All but <c>held</c> and <c>recorded</c>.</param>
    /// <param name="which">Which of the rows that are known now.</param>
    /// <param name="at">From when on they hold no more.</param>
    public static string End(string table, string columns, string which, string at = "@now") =>
        $"""
            with closed as (update {table} set {Closed} where ({which}) and upper_inf(recorded) returning *)
            insert into {table} ({columns}, held, recorded)
            select {columns}, tstzrange(lower(held), {at}), tstzrange(@now, null) from closed where lower(held) < {at}
            """;

    /// <summary>Ends what holds now and puts other values in its place.</summary>
    /// <param name="values">In the order of <paramref name="columns"/>.</param>
    public static string Replace(string table, string columns, string which, string values) =>
        $"""
            {End(table, columns, $"{which} and held @> @now")};
            insert into {table} ({columns}, held, recorded) values ({values}, tstzrange(@now, null), tstzrange(@now, null));
            """;
}
