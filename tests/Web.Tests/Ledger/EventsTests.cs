using System.Diagnostics;
using System.Globalization;
using Shouldly;
using Xunit;

namespace VelvetGate.Web.Tests.Ledger;

public class EventsTests(WebHouse house) : IClassFixture<WebHouse>
{
    private sealed class Listener(Stream stream) : IDisposable
    {
        private readonly StreamReader _reader = new(stream);

        public async Task<(string Kind, string Id)> Next(TimeSpan patience)
        {
            using var cancel = new CancellationTokenSource(patience);
            string kind = "",
                id = "";
            while (await _reader.ReadLineAsync(cancel.Token) is { } line)
            {
                if (line.StartsWith("data: ", StringComparison.Ordinal))
                    kind = System.Text.Json.JsonDocument.Parse(line[6..]).RootElement.GetProperty("kind").GetString()!;
                if (line.StartsWith("id: ", StringComparison.Ordinal))
                    id = line[4..];
                if (line.Length == 0 && id.Length > 0)
                    return (kind, id);
            }
            return ("ended", id);
        }

        public void Dispose() => _reader.Dispose();
    }

    private static async Task<Listener> Listen(Api api, string path = "/api/events", string? lastEventId = null)
    {
        using var request = new HttpRequestMessage(HttpMethod.Get, path);
        if (lastEventId is not null)
            request.Headers.Add("Last-Event-ID", lastEventId);
        var answer = await api.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead);
        answer.Content.Headers.ContentType!.MediaType.ShouldBe("text/event-stream");
        return new Listener(await answer.Content.ReadAsStreamAsync());
    }

    /// <summary>Waits until the background work has read all of the record: what it still writes is no silence.</summary>
    private static async Task Quiet(Api api)
    {
        for (var i = 0; i < 200 && (await api.Get("/readyz")).Body.GetProperty("standingLag").GetInt64() > 0; i++)
            await Task.Delay(50);
    }

    [Fact]
    public async Task Events_WhenSomebodyActs_ArriveWithinTwoSeconds_AndNothingComesWhileNothingHappens()
    {
        using var watcher = await house.As("member");
        using var actor = await house.As("newcomer");
        await Quiet(watcher);
        using var stream = await Listen(watcher);
        (await stream.Next(TimeSpan.FromSeconds(5))).Kind.ShouldBe("stream.open");
        await Should.ThrowAsync<OperationCanceledException>(() => stream.Next(TimeSpan.FromSeconds(1)));
        using var second = await Listen(watcher);
        await second.Next(TimeSpan.FromSeconds(5));
        var clock = Stopwatch.StartNew();
        await actor.Post("/api/machines/swift/stops", new { reason = "Smoke." });
        (await second.Next(TimeSpan.FromSeconds(5))).Kind.ShouldBe("machine.stopped");
        clock.Elapsed.TotalSeconds.ShouldBeLessThan(2);
    }

    [Fact]
    public async Task Events_AfterAnAbsence_GoOnWhereTheyWere()
    {
        using var api = await house.As("member");
        await Quiet(api);
        using var first = await Listen(api);
        var last = (await first.Next(TimeSpan.FromSeconds(5))).Id;
        await api.Post("/api/machines/wren/stops", new { reason = "One." });
        await api.Post("/api/machines/heron/stops", new { reason = "Two." });
        using var again = await Listen(api, lastEventId: last);
        (await again.Next(TimeSpan.FromSeconds(5))).Kind.ShouldBe("stream.open");
        var seq = long.Parse(last, CultureInfo.InvariantCulture);
        // Bookings that a stop puts at risk may come between; nothing is left out, and nothing comes twice.
        for (var (stops, next) = (0, seq + 1); stops < 2; next++)
        {
            var (kind, id) = await again.Next(TimeSpan.FromSeconds(5));
            id.ShouldBe(next.ToString(CultureInfo.InvariantCulture));
            if (kind == "machine.stopped")
                stops++;
        }
    }
}
