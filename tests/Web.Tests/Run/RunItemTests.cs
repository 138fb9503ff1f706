using System.Net;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Run;

/// <summary>A booking of several sheets: each is logged by itself, and is held against its own drawing.</summary>
public class RunItemTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task TwoSheetsAlike_AreToldApartByTheirPlaceInTheBooking()
    {
        using var member = await house.As("member");
        var (small, large) = ((await member.PutIn(Square(20))).Id, (await member.PutIn(Square(200))).Id);
        Dictionary<string, object?> Two(Dictionary<string, object?> q)
        {
            var item = new
            {
                materialId = q["materialId"],
                thicknessMm = q["thicknessMm"],
                operations = q["operations"],
            };
            return q.With(
                "items",
                new[] { small, large }
                    .Select(d => new
                    {
                        item.materialId,
                        item.thicknessMm,
                        item.operations,
                        sheetTag = q["sheetTag"],
                        drawingId = d,
                    })
                    .ToArray()
            );
        }
        var start = await member.FreeStart(Two);
        var booked = await member.Post("/api/bookings", Two(Questions.Open(start)));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        await house.Db.Tamper(
            "alter table booking.booking disable trigger booking_holds; "
                + "update booking.booking set during = tstzrange('2026-11-24T08:00Z', '2026-11-24T09:30Z'), ask = jsonb_set(ask, "
                + $"'{{start}}', '\"2026-11-24T08:00:00Z\"') where id = '{booked.Id}'"
        );

        (await Log(member, booked.Id, -1)).Fields.ShouldBe(["item"]);
        (await Log(member, booked.Id, 1)).Status.ShouldBe(HttpStatusCode.Created);
        (await Log(member, booked.Id, 0)).Status.ShouldBe(HttpStatusCode.Created);
        var runs = (await member.Get("/api/runs")).Body.GetProperty("items").EnumerateArray().ToList();
        runs.Where(r => r.TryGetProperty("bookingId", out var b) && b.GetString() == booked.Id)
            .Select(r => r.GetProperty("item").GetInt32())
            .Order()
            .ShouldBe([0, 1]);

        // Covered by its booking only where it has such a sheet.
        (await Log(member, booked.Id, 7)).Body.GetProperty("waitsForALook").GetBoolean().ShouldBeTrue();
    }

    private static string Square(int side) =>
        $"<svg xmlns='http://www.w3.org/2000/svg' width='{side}mm' height='{side}mm' viewBox='0 0 {side} {side}'>"
        + $"<rect x='1' y='1' width='{side - 2}' height='{side - 2}' fill='none' stroke='#9c2f4f'/></svg>";

    private static Task<Answer> Log(Api who, string booking, int item) =>
        who.Post(
            "/api/runs",
            new
            {
                bookingId = booking,
                machineId = "heron",
                materialId = "birch-ply-laser",
                thickness = "3 mm",
                operations = new[] { "cut" },
                start = $"2026-11-24T08:{20 + item}:00Z",
                end = $"2026-11-24T08:{25 + item}:00Z",
                outcome = "clean",
                item,
            }
        );
}
