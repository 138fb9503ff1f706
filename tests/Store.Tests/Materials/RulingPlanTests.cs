using System.Diagnostics;
using Dapper;
using NodaTime;
using Shouldly;
using VelvetGate.Store.Materials;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Store.Tests.Materials;

public sealed class RulingPlanTests : IAsyncLifetime
{
    private TestDatabase _db = null!;

    public async ValueTask InitializeAsync() => _db = await TestDatabase.Demo();

    public ValueTask DisposeAsync() => _db.DisposeAsync();

    /// <summary>A hundred thousand versions: what held on a day is found through the index, not by reading them all.</summary>
    [Fact]
    public async Task WhatHeldOnADay_AmongAHundredThousandVersions_IsFoundByIndex()
    {
        await using var connection = await _db.Owner.OpenConnectionAsync();
        await connection.ExecuteAsync(
            """
            insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
                select 'stuff-' || i, 'Stuff ' || i, 'found and other', '{}', 1, false, 1000 + i from generate_series(1, 500) i;
            insert into materials.ruling (material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                filtered_needs_arrangement, held, recorded)
                select 'stuff-' || (1 + i % 500), 'co2', 'cut', 0, null, 'banned', 'none', '{}', 'Smoke.', '', false,
                    tstzrange(@start + make_interval(days => i / 500), @start + make_interval(days => 1 + i / 500)),
                        tstzrange(@start, null) from generate_series(0, 99999) i;
            analyze materials.ruling;
            """,
            new { start = Instant.FromUtc(2026, 1, 1, 0, 0) },
            commandTimeout: 240
        );
        var plan = string.Join(
            '\n',
            await connection.QueryAsync<string>(
                "explain select * from materials.ruling where material_id = 'stuff-7' and held @> @at and upper_inf(recorded)",
                new { at = Instant.FromUtc(2026, 3, 1, 12, 0) }
            )
        );
        plan.ShouldContain("Index");
        plan.ShouldNotContain("Seq Scan");
        var store = new MaterialStore(_db.App);
        await store.Shelf(Instant.FromUtc(2026, 3, 1, 12, 0), default);
        var clock = Stopwatch.StartNew();
        var shelf = await store.Shelf(Instant.FromUtc(2026, 3, 2, 12, 0), default);
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(
            5,
            "no benchmark, only a bound that a full read of every version would pass on no machine"
        );
        shelf.Rulings.Count(r => r.MaterialId.Value.StartsWith("stuff-", StringComparison.Ordinal)).ShouldBe(500);
    }
}
