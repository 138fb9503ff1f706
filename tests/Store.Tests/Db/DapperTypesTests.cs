using Dapper;
using NodaTime;
using Npgsql;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Db;

/// <summary>
/// Each type goes to PostgreSQL as a parameter and comes back as a scalar and as a column. Without a handler Dapper reads an Instant as
/// 1970.
/// </summary>
public sealed class DapperTypesTests : IAsyncLifetime
{
    private TestDatabase _db = null!;
    private NpgsqlConnection _connection = null!;

    private sealed record Row<T>(T V);

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Empty();
        _connection = await _db.App.OpenConnectionAsync();
    }

    public async ValueTask DisposeAsync()
    {
        await _connection.DisposeAsync();
        await _db.DisposeAsync();
    }

    [Fact]
    public Task Instant_RoundTripsToTheMicrosecond() =>
        RoundTrip(Instant.FromUtc(2026, 3, 29, 1, 30) + Duration.FromMilliseconds(1) + Duration.FromTicks(10), "timestamptz");

    [Fact]
    public Task LocalDate_RoundTrips() => RoundTrip(new LocalDate(2028, 2, 29), "date");

    [Fact]
    public async Task Interval_RoundTripsWithAndWithoutAnEnd()
    {
        var start = Instant.FromUtc(2026, 11, 24, 10, 0);
        await RoundTrip(new Interval(start, start + Duration.FromHours(1)), "tstzrange");
        await RoundTrip(new Interval(start, null), "tstzrange");
    }

    [Fact]
    public Task LocalTime_RoundTrips() => RoundTrip(new LocalTime(23, 45), "time");

    [Fact]
    public async Task Arrays_OfInstantsAndDates_RoundTrip()
    {
        await RoundTrip(new[] { Instant.FromUtc(2026, 3, 29, 1, 30), Instant.FromUtc(1970, 1, 1, 0, 0) }, "timestamptz[]");
        await RoundTrip(new[] { new LocalDate(2028, 2, 29) }, "date[]");
    }

    [Fact]
    public Task TextArray_RoundTrips() => RoundTrip(new[] { "a", "", "ö" }, "text[]");

    [Fact]
    public Task Decimal_KeepsSixPlacesOfAThickness() => RoundTrip(3.175001m, "numeric(9,6)");

    [Fact]
    public async Task Instant_Null_StaysNull()
    {
        (await _connection.ExecuteScalarAsync<Instant?>("select @v::timestamptz", new { v = (Instant?)null })).ShouldBeNull();
        (await _connection.QuerySingleAsync<Row<Instant?>>("select null::timestamptz as v")).V.ShouldBeNull();
    }

    [Fact]
    public async Task Instant_InsideARangeAndATuple_IsTheSame()
    {
        var at = TestDatabase.Now;
        var (from, until) = await _connection.QuerySingleAsync<(Instant, Instant?)>(
            "select lower(r), upper(r) from (select tstzrange(@at, null) as r) x",
            new { at }
        );
        from.ShouldBe(at);
        until.ShouldBeNull();
    }

    private async Task RoundTrip<T>(T value, string type)
    {
        (await _connection.QuerySingleAsync<T>($"select @v::{type}", new { v = value })).ShouldBe(value);
        (await _connection.QuerySingleAsync<Row<T>>($"select @v::{type} as v", new { v = value })).V.ShouldBe(value);
        (await _connection.ExecuteScalarAsync<string>($"select (@v::{type})::text", new { v = value })).ShouldNotBeNullOrEmpty();
    }
}
