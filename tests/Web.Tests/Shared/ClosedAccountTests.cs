using System.Net;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Ledger;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>An account that ended is out at once: at sign-in, in a session, in a stream, and in every role.</summary>
public class ClosedAccountTests(WebHouse house) : IClassFixture<WebHouse>
{
    private Task EndAccount(string id, Instant end) =>
        house.Db.Tamper(
            $"update people.account set held = tstzrange(lower(held), '{end}') where person_id = '{id}' and upper_inf(recorded)"
        );

    private Task OpenAccount(string id) =>
        house.Db.Tamper($"update people.account set held = tstzrange(lower(held), null) where person_id = '{id}' and upper_inf(recorded)");

    [Fact]
    public async Task Session_OfAnAccountThatEnded_IsRefusedByEveryEndpoint()
    {
        using var steward = await house.As("steward");
        await EndAccount("m-2", TestDatabase.Now - Duration.FromDays(1));
        var tried = 0;
        foreach (var endpoint in house.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>())
        {
            if (
                endpoint.Metadata.GetMetadata<Microsoft.AspNetCore.Authorization.IAllowAnonymous>() is not null
                || endpoint.RoutePattern.RawText?.StartsWith("/api", StringComparison.Ordinal) != true
            )
                continue;
            var path = System.Text.RegularExpressions.Regex.Replace(endpoint.RoutePattern.RawText, @"\{\w+:guid\}", Guid.Empty.ToString());
            path = System.Text.RegularExpressions.Regex.Replace(
                System.Text.RegularExpressions.Regex.Replace(path, @"\{\w+:(long|int)\}", "0"),
                @"\{[\w*]+\}",
                "x"
            );
            foreach (var method in endpoint.Metadata.GetMetadata<HttpMethodMetadata>()?.HttpMethods ?? [])
            {
                using var request = new HttpRequestMessage(new HttpMethod(method), path);
                if (method is "POST" or "PUT")
                    request.Content =
                        endpoint
                            .Metadata.GetMetadata<Microsoft.AspNetCore.Http.Metadata.IAcceptsMetadata>()
                            ?.ContentTypes.Contains("multipart/form-data") == true
                            ? new MultipartFormDataContent { { new ByteArrayContent([]), "file", "x.svg" } }
                            : new StringContent("{}", System.Text.Encoding.UTF8, "application/json");
                using var answer = await steward.Http.SendAsync(
                    request,
                    HttpCompletionOption.ResponseHeadersRead,
                    TestContext.Current.CancellationToken
                );
                answer.StatusCode.ShouldBe(HttpStatusCode.Unauthorized, $"{method} {path}");
                tried++;
            }
        }
        tried.ShouldBeGreaterThan(140);
        using var again = await house.As(null);
        (await again.Post("/api/sign-in", new { name = "steward", password = "ropewalk" })).Code.ShouldBe("signIn.wrong");
        await OpenAccount("m-2");
        (await steward.Get("/api/me")).Status.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Session_WhenTheAccountEndsByDate_EndsInThatSecond()
    {
        using var trainer = await house.As("trainer");
        await EndAccount("m-3", TestDatabase.Now + Duration.FromSeconds(1));
        (await trainer.Get("/api/me")).Status.ShouldBe(HttpStatusCode.OK);
        house.Clock.Now += Duration.FromSeconds(1);
        (await trainer.Get("/api/me")).Status.ShouldBe(HttpStatusCode.Unauthorized);
        house.Clock.Now -= Duration.FromSeconds(1);
        await OpenAccount("m-3");
    }

    /// <summary>A role ends with the account of its person, wherever it is looked up: a supervisor who left supervises nobody.</summary>
    [Fact]
    public async Task Roles_OfAnAccountThatEnds_EndWithIt()
    {
        using var newcomer = await house.As("newcomer");
        var question = Questions.Open(WebHouse.At(2, 14)).With("memberId", "m-5").With("supervisorId", "m-3");
        (await newcomer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldContain("training.supervised");
        await EndAccount("m-3", TestDatabase.Now + Duration.FromDays(1));
        (await newcomer.Post("/api/gate/ask?soonest=false", question)).Codes.ShouldNotContain("training.supervised");
        await OpenAccount("m-3");
    }

    [Fact]
    public async Task Stream_OfAnAccountThatEnded_Ends()
    {
        using var member = await house.As("member");
        using var other = await house.As("newcomer");
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/events");
        using var answer = await member.Http.SendAsync(
            request,
            HttpCompletionOption.ResponseHeadersRead,
            TestContext.Current.CancellationToken
        );
        using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync(TestContext.Current.CancellationToken));
        (await reader.ReadLineAsync(TestContext.Current.CancellationToken)).ShouldNotBeNull();
        await EndAccount("m-4", TestDatabase.Now - Duration.FromDays(1));
        await other.Post("/api/machines/wren/stops", new { reason = "Anything at all." });
        using var patience = CancellationTokenSource.CreateLinkedTokenSource(TestContext.Current.CancellationToken);
        patience.CancelAfter(TimeSpan.FromSeconds(30));
        (await reader.ReadToEndAsync(patience.Token)).ShouldNotBeNull();
        await OpenAccount("m-4");
    }

    /// <summary>A stream replays a day at most, whatever number it is asked to go on from.</summary>
    [Fact]
    public async Task Stream_AskedForTheWholeRecord_BeginsADayBack()
    {
        using var member = await house.As("member");
        using var request = new HttpRequestMessage(HttpMethod.Get, "/api/events?after=0");
        using var answer = await member.Http.SendAsync(
            request,
            HttpCompletionOption.ResponseHeadersRead,
            TestContext.Current.CancellationToken
        );
        using var reader = new StreamReader(await answer.Content.ReadAsStreamAsync(TestContext.Current.CancellationToken));
        var line = "";
        while (!line.StartsWith("id: ", StringComparison.Ordinal))
            line = (await reader.ReadLineAsync(TestContext.Current.CancellationToken))!;
        await using var command = house.Db.App.CreateCommand(
            $"select max(seq) from ledger.entry where at < '{Chain.Instant(TestDatabase.Now - Duration.FromDays(1))}'"
        );
        long.Parse(line[4..], System.Globalization.CultureInfo.InvariantCulture)
            .ShouldBe((long)(await command.ExecuteScalarAsync(TestContext.Current.CancellationToken))!);
    }
}
