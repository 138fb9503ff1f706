using OpenQA.Selenium;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>A house far larger than the demo: only what is in sight is drawn, and nothing is lost by it.</summary>
public sealed class LargeHouseTests : IAsyncLifetime
{
    private TestDatabase _db = null!;
    private ServerProcess _server = null!;

    public async ValueTask InitializeAsync()
    {
        _db = await TestDatabase.Demo();
        await _db.Tamper(
            """
            insert into materials.material (id, name, family, synonyms, cut_energy, heavy_residue, position)
            select 'stuff-' || i, 'Stuff ' || i, 'found and other', array['thing ' || i], 1, false, 1000 + i from generate_series(1, 420) i;
            insert into materials.ruling (material_id, kind, operation, min_mm, max_mm, standing, evidence, reasons, hazard, handling,
                filtered_needs_arrangement, held, recorded)
            select m.id, k, 'cut', 0, 1 + m.position % 9, 'permitted', 'declared', '{odour}', 'Smoke.', '', false,
                tstzrange('2026-01-01Z', null), tstzrange('2026-01-01Z', null)
            from materials.material m, unnest(array['co2', 'diode', 'fibre']) k where m.id like 'stuff-%';
            insert into people.person (id, given_name, family_name) select 'x-' || i, 'Person', 'Number ' || lpad(i::text, 4, '0')
                from generate_series(1, 5000) i;
            insert into people.account (person_id, held, recorded) select 'x-' || i, tstzrange('2026-01-01Z', null),
                tstzrange('2026-01-01Z', null) from generate_series(1, 5000) i;
            insert into training.certificate (id, person_id, authority, signed_by, text_id, held, recorded)
            select gen_random_uuid(), 'x-' || i, m, 'm-3', gen_random_uuid(), tstzrange('2026-10-01Z', '2027-10-02Z'),
                tstzrange('2026-10-01Z', null)
            from generate_series(1, 5000) i, unnest(array['heron', 'wren', 'swift']) m where i % 3 > 0
            """
        );
        _server = await ServerProcess.Start(_db);
    }

    public async ValueTask DisposeAsync()
    {
        _server.Dispose();
        await _db.DisposeAsync();
    }

    [Fact]
    public void Shelf_OfFiveHundred_DrawsTheRowsInSight_AndReachesEveryRowByKeyboardScrollAndSearch()
    {
        using var browser = new Browser(_server.Address).As("member", "/materials");
        browser.WaitFor("Solid wood, raw");
        Rows().ShouldBeLessThan(60);

        browser.Run<object?>("window.scrollTo(0, document.body.scrollHeight)");
        browser.Wait(
            () =>
                browser.Run<bool>(
                    "window.scrollTo(0, document.body.scrollHeight); return [...document.querySelectorAll('.shelf th "
                        + "button')].some((b) => b.textContent === 'Stuff 420')"
                ),
            "the last row is there"
        );
        Rows().ShouldBeLessThan(60);

        browser.Run<object?>("[...document.querySelectorAll('.shelf th button')].find((b) => b.textContent === 'Stuff 420').focus()");
        for (var i = 420; i > 380; i--)
        {
            Focused().ShouldBe($"Stuff {i}");
            browser.Driver.SwitchTo().ActiveElement().SendKeys(Keys.ArrowUp);
            browser.Wait(() => Focused() == $"Stuff {i - 1}", $"row {i - 1} by arrow");
        }

        browser.Type("Find a material by any name", "thing 207");
        browser.Wait(() => Rows() is 1, "one is left");
        browser.Text.ShouldContain("Stuff 207");
        browser.Find(".shelf th button").Click();
        browser.Find(".ticket h2").Text.ShouldBe("Stuff 207");

        long Rows() => browser.Run<long>("return document.querySelectorAll('.shelf tbody th[scope=row]').length");
        string Focused() => browser.Driver.SwitchTo().ActiveElement().Text;
    }

    [Fact]
    public void Matrix_OfFiveThousand_DrawsTheRowsInSight_AndFindsAnybody()
    {
        using var browser = new Browser(_server.Address).As("trainer", "/training");
        browser.WaitFor("5061 of 5061");
        Rows().ShouldBeLessThan(60);
        browser.Wait(
            () =>
                browser.Run<bool>(
                    "window.scrollTo(0, document.body.scrollHeight); return [...document.querySelectorAll('.matrix th "
                        + "button')].some((b) => b.textContent === 'Yara Hadda' || b.textContent.startsWith('Person Number'))"
                ),
            "far down"
        );
        Rows().ShouldBeLessThan(60);
        browser.Type("Find a person", "number 4321");
        browser.WaitGone("5061 of 5061");
        browser.WaitFor("1 of 5061", "Person Number 4321");
        browser.Find(".matrix th button").Click();
        browser.Wait(() => browser.Find(".ticket h2").Text == "Person Number 4321", "the card follows");

        long Rows() => browser.Run<long>("return document.querySelectorAll('.matrix tbody th[scope=row]').length");
    }
}
