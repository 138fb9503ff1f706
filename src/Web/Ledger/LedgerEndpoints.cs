using System.Diagnostics;
using System.Net.ServerSentEvents;
using System.Runtime.CompilerServices;
using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Core.Ledger;
using VelvetGate.Store.Ledger;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Ledger;

/// <param name="Words">What people read for the kind.</param>
/// <param name="Body">Numbers, codes, instants and salted hashes.</param>
public sealed record EntryResponse(long Seq, string At, string Kind, string Words, JsonElement Body, string Prev, string Hash);

/// <param name="Next">Give this as <c>after</c>, or as <c>before</c> when going backwards, for the next page; absent on the last.</param>
/// <param name="People">Who the person numbers on this page are; the chain itself holds no names. Somebody erased has none.</param>
public sealed record EntryList(IReadOnlyList<EntryResponse> Items, long? Next, IReadOnlyList<NumberedPerson> People);

public sealed record NumberedPerson(int Number, PersonId Id, string? Name);

/// <summary>What a page is told: that something of this kind happened.</summary>
public sealed record Happening(long Seq, string Kind);

public static class LedgerEndpoints
{
    private const int Page = 200;

    /// <summary>So far back a stream is taken up again.</summary>
    private static readonly Duration Back = Duration.FromDays(1);

    /// <summary>How often an idle stream looks whether its session still holds.</summary>
    private static readonly TimeSpan LookAgain = TimeSpan.FromSeconds(15);

    public static void MapLedger(this IEndpointRouteBuilder app)
    {
        app.MapGet("/api/ledger", List).WithTags("Records").WithName("ListLedger").RequireAuthorization(Policy.Records);
        app.MapGet("/api/events", Events).WithTags("Records").WithName("Events").RequireAuthorization(Policy.SignedIn);
    }

    /// <summary>Forwards from <paramref name="after"/>, or backwards from <paramref name="before"/>.</summary>
    private static async Task<Ok<EntryList>> List(
        long? after,
        long? before,
        LedgerStore ledger,
        PeopleStore people,
        CancellationToken cancel
    )
    {
        var found = before is { } last
            ? await ledger.EntriesBefore(last, Page + 1, cancel)
            : await ledger.Entries(Math.Max(0, after ?? 0), Page + 1, cancel);
        var items = found
            .Take(Page)
            .Select(e => new EntryResponse(
                Seq: e.Seq,
                At: e.At,
                Kind: e.Kind,
                Words: RecordEvents.Find(e.Kind)?.Words ?? e.Kind,
                Body: JsonDocument.Parse(e.Body).RootElement,
                Prev: e.Prev,
                Hash: e.Hash
            ))
            .ToList();
        var named = await people.Numbered([.. items.SelectMany(i => Numbers(i.Body)).Distinct()], cancel);
        return TypedResults.Ok(
            new EntryList(
                items,
                found.Count > Page ? items[^1].Seq : null,
                [.. named.Select(p => new NumberedPerson(p.Number, p.Id, p.Name))]
            )
        );
    }

    /// <summary>The keys under which an entry names people.</summary>
    private static readonly string[] PersonKeys =
    [
        "person",
        "by",
        "returnedBy",
        "releasedBy",
        "signedBy",
        "supervisor",
        "trainer",
        "proposedBy",
        "agreedBy",
        "askedBy",
    ];

    private static IEnumerable<int> Numbers(JsonElement body) =>
        body.ValueKind != JsonValueKind.Object
            ? []
            : PersonKeys
                .Select(k =>
                    body.TryGetProperty(k, out var value) && value.ValueKind == JsonValueKind.Number && value.TryGetInt32(out var number)
                        ? number
                        : (int?)null
                )
                .OfType<int>();

    /// <summary>Server-sent events; the id is the ledger number, so that a page that was away goes on where it was.</summary>
    private static async Task<ServerSentEventsResult<Happening>> Events(
        HttpContext http,
        long? after,
        EventHub hub,
        LedgerStore ledger,
        PeopleStore people,
        IClock clock,
        IHostApplicationLifetime lifetime,
        CancellationToken cancel
    )
    {
        var newest = await ledger.LastSeq(cancel);
        var asked = long.TryParse(http.Request.Headers["Last-Event-ID"], out var given) ? given : after ?? newest;
        // A page that was away for longer loads itself anew: the kinds of the whole record are nobody's to replay.
        var last = Math.Clamp(asked, await ledger.LastBefore(clock.GetCurrentInstant() - Back, cancel), newest);
        var key = CurrentUser.KeyOf(http.User)!;
        var ends = CancellationTokenSource.CreateLinkedTokenSource(cancel, lifetime.ApplicationStopping);
        http.Response.Headers["X-Accel-Buffering"] = "no";
        return TypedResults.ServerSentEvents(
            Stream(
                last,
                hub,
                ledger,
                async () =>
                    await people.OfSession(key, clock.GetCurrentInstant(), SystemClock.Instance.GetCurrentInstant(), ends.Token)
                        is not null,
                ends.Token
            )
        );
    }

    private static async IAsyncEnumerable<SseItem<Happening>> Stream(
        long last,
        EventHub hub,
        LedgerStore ledger,
        Func<Task<bool>> holds,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        using var subscription = hub.Subscribe();
        var looked = Stopwatch.StartNew();
        // A first event opens the stream at once and tells the page where it stands.
        yield return new SseItem<Happening>(new Happening(last, "stream.open"), "happening")
        {
            EventId = last.ToString(System.Globalization.CultureInfo.InvariantCulture),
        };
        while (!cancel.IsCancellationRequested)
        {
            var entries = await ledger.Entries(last, Page, cancel);
            foreach (var entry in entries)
            {
                last = entry.Seq;
                yield return new SseItem<Happening>(new Happening(entry.Seq, entry.Kind), "happening")
                {
                    EventId = entry.Seq.ToString(System.Globalization.CultureInfo.InvariantCulture),
                };
            }
            if (entries.Count == Page)
                continue;
            // An account that ended, a role or a password that changed: the stream ends with the session. Not asked anew at every event of
            // a busy day.
            if (looked.Elapsed >= LookAgain || entries.Any(e => e.Kind.StartsWith("person.", StringComparison.Ordinal)))
            {
                if (!await holds())
                    yield break;
                looked.Restart();
            }
            using var patience = CancellationTokenSource.CreateLinkedTokenSource(cancel);
            patience.CancelAfter(LookAgain);
            await subscription.Wait(last, patience.Token);
        }
    }
}
