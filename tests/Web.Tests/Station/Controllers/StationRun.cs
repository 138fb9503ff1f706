using System.Net;
using System.Text.Json;
using NodaTime;
using NodaTime.Text;
using Shouldly;

namespace VelvetGate.Web.Tests.Station.Controllers;

/// <summary>A member’s screen at Heron, up to a beam that is on.</summary>
public sealed class StationRun(Api api)
{
    public const string At = "/api/stations/heron";
    public JsonElement Station { get; private set; }
    public JsonElement Session => Station.GetProperty("session");
    public string Step => Station.GetProperty("step").GetString()!;

    public async Task Look() => Station = (await api.Get(At)).Body;

    public async Task<Answer> Send(string act, object? with = null)
    {
        var body = JsonSerializer.SerializeToNode(with ?? new { })!.AsObject();
        body["act"] = act;
        body["id"] = Guid.NewGuid().ToString();
        body["session"] = Session.GetProperty("id").GetString();
        body["version"] = Session.GetProperty("version").GetInt32();
        var answer = await api.Post($"{At}/act", body);
        if (answer.Status == HttpStatusCode.OK)
            Station = answer.Body;
        return answer;
    }

    public async Task Do(string act, object? with = null)
    {
        var answer = await Send(act, with);
        answer.Status.ShouldBe(HttpStatusCode.OK, $"{act}: {answer.Body}");
    }

    /// <summary>Books Heron, and taps in when the time begins.</summary>
    public async Task TapIn(ControlledHouse house, int? after = null)
    {
        await Book(house, after);
        var tapped = await api.Post($"{At}/tap");
        tapped.Status.ShouldBe(HttpStatusCode.OK, tapped.Body.ToString());
        Station = tapped.Body;
    }

    /// <summary>Books Heron; the time begins.</summary>
    public async Task Book(
        ControlledHouse house,
        int? after = null,
        Func<Dictionary<string, object?>, Dictionary<string, object?>>? change = null
    )
    {
        var drawing = (
            await api.PutIn(
                "<svg xmlns='http://www.w3.org/2000/svg' width='60mm' height='60mm' viewBox='0 0 60 60'>"
                    + "<rect x='5' y='5' width='50' height='50' fill='none' stroke='#9c2f4f'/></svg>"
            )
        ).Id;
        var start = await api.FreeStart(Asked);
        var booked = await api.Post("/api/bookings", Asked(Questions.Open(start)));
        booked.Status.ShouldBe(HttpStatusCode.Created, booked.Body.ToString());
        house.Clock.Now = OffsetDateTimePattern.ExtendedIso.Parse(start).Value.ToInstant() + Duration.FromSeconds(after ?? 0);

        Dictionary<string, object?> Asked(Dictionary<string, object?> q) =>
            (change?.Invoke(q) ?? q).With("drawingId", drawing).With("runMinutes", null);
    }

    /// <summary>All looks, the sheet, focus, settings and frame.</summary>
    public async Task Prepare()
    {
        foreach (var place in Session.GetProperty("places").EnumerateArray().Select(p => p.GetProperty("id").GetString()).ToList())
            await Do("check", new { item = place, ok = true });
        await Do("sheet", new { tag = "S-0097", thickness = new[] { "3", "3", "3" } });
        await Do("focus", new { method = "gauge", gaugeBack = true });
        await Do(
            "settings",
            new
            {
                values = new
                {
                    powerPercent = 60,
                    speedMmPerS = 23,
                    passes = 1,
                },
            }
        );
        await Do("frame");
    }

    public async Task Confirm()
    {
        await Do("air", new { assist = true });
        await Do(
            "confirm",
            new
            {
                height = true,
                material = true,
                stay = true,
            }
        );
    }

    public Task<Answer> Start() => Send("start", new { stay = true });
}
