using Microsoft.AspNetCore.Http.HttpResults;
using NodaTime;
using VelvetGate.Store.People;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.People;

/// <param name="Link">Path inside the application.</param>
public sealed record MessageResponse(Guid Id, string Title, string Body, string Link, Instant At, bool Read);

public sealed record MessageList(IReadOnlyList<MessageResponse> Items);

/// <summary>What a person was told.</summary>
public static class MessageEndpoints
{
    private const int Most = 100;

    public static void MapMessages(this IEndpointRouteBuilder app)
    {
        var messages = app.MapGroup("/api/messages").WithTags("People").RequireAuthorization(Policy.SignedIn);
        messages.MapGet("/", List).WithName("ListMessages");
        messages.MapPost("/{id:guid}/read", Read).WithName("ReadMessage").ProducesProblem(404);
    }

    private static async Task<Ok<MessageList>> List(CurrentUser user, MessageStore messages, CancellationToken cancel) =>
        TypedResults.Ok(
            new MessageList([
                .. (await messages.Of(user.Id, Most, cancel)).Select(m => new MessageResponse(
                    m.Id,
                    m.Title,
                    m.Body,
                    m.Link,
                    m.At,
                    m.ReadAt is not null
                )),
            ])
        );

    private static async Task<Results<NoContent, ProblemHttpResult>> Read(
        Guid id,
        CurrentUser user,
        MessageStore messages,
        IClock clock,
        CancellationToken cancel
    ) =>
        await messages.Read(id, user.Id, clock.GetCurrentInstant(), cancel)
            ? TypedResults.NoContent()
            : Problems.NotFound("message of yours");
}
