using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using VelvetGate.Store.Ledger;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Ledger;

/// <param name="Body">Numbers, codes, instants and salted hashes.</param>
public sealed record EntryAnswer(long Seq, string At, string Kind, JsonElement Body, string Prev, string Hash);

/// <param name="Next">Give this as <c>after</c>, or as <c>before</c> when going backwards, for the next page; absent on the last.</param>
public sealed record EntryList(IReadOnlyList<EntryAnswer> Items, long? Next);

/// <summary>What a page is told: that something of this kind happened.</summary>
public sealed record Happening(long Seq, string Kind);

public static class LedgerEndpoints
{
    private const int Page = 200;

    public static void MapLedger(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/ledger", List).WithTags("Records").WithName("ListLedger").RequireAuthorization(Policy.Records);
        app.MapGet("/api/events", Events).WithTags("Records").WithName("Events").RequireAuthorization(Policy.SignedIn);
    }

    /// <summary>Forwards from <paramref name="after"/>, or backwards from <paramref name="before"/>.</summary>
    private static async Task<Ok<EntryList>> List(long? after, long? before, LedgerStore ledger, CancellationToken cancel)
    {
        var found = before is { } last
            ? await ledger.EntriesBefore(last, Page + 1, cancel)
            : await ledger.Entries(Math.Max(0, after ?? 0), Page + 1, cancel);
        var items = found.Take(Page).Select(e => new EntryAnswer(e.Seq, e.At, e.Kind, JsonDocument.Parse(e.Body).RootElement, e.Prev, e.Hash)).ToList();
        return TypedResults.Ok(new EntryList(items, found.Count > Page ? items[^1].Seq : null));
    }

    /// <summary>Server-sent events; the id is the ledger number, so that a page that was away goes on where it was.</summary>
    private static async Task<ServerSentEventsResult<Happening>> Events(
        HttpContext http, long? after, EventHub hub, LedgerStore ledger, IHostApplicationLifetime lifetime, CancellationToken cancel)
    {
        var last = long.TryParse(http.Request.Headers["Last-Event-ID"], out var given) ? given : after ?? await ledger.LastSeq(cancel);
        var ends = CancellationTokenSource.CreateLinkedTokenSource(cancel, lifetime.ApplicationStopping);
        http.Response.Headers["X-Accel-Buffering"] = "no";
        return TypedResults.ServerSentEvents(Stream(last, hub, ledger, ends.Token));
    }

    private static async IAsyncEnumerable<SseItem<Happening>> Stream(long last, EventHub hub, LedgerStore ledger, [EnumeratorCancellation] CancellationToken cancel)
    {
        using var subscription = hub.Subscribe();
        // A first event opens the stream at once and tells the page where it stands.
        yield return new SseItem<Happening>(new Happening(last, "stream.open"), "happening") { EventId = last.ToString(System.Globalization.CultureInfo.InvariantCulture) };
        while (!cancel.IsCancellationRequested)
        {
            foreach (var entry in await ledger.Entries(last, 500, cancel))
            {
                last = entry.Seq;
                yield return new SseItem<Happening>(new Happening(entry.Seq, entry.Kind), "happening") { EventId = entry.Seq.ToString(System.Globalization.CultureInfo.InvariantCulture) };
            }
            if (!await subscription.Wait(last, cancel)) yield break;
        }
    }
}
