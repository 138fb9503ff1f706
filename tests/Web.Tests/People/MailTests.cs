using System.Net;
using Microsoft.Extensions.Logging.Abstractions;
using MimeKit;
using Shouldly;
using VelvetGate.Core.People;
using VelvetGate.StandIns;
using VelvetGate.Store.People;
using VelvetGate.Web.People;
using VelvetGate.Web.Shared;
using Xunit;

namespace VelvetGate.Web.Tests.People;

/// <summary>One odd address or dead mail box holds up nobody else's mail.</summary>
public class MailTests(WebHouse house) : IClassFixture<WebHouse>
{
    [Fact]
    public async Task Mail_ToAnOddAddress_FailsByItselfAndTheRestGoesOn()
    {
        var port = FreePort();
        await house.Db.Tamper(
            """
            update people.person set email = 'anna@' where id = 'm-5';
            update ledger.worker_cursor set seq = 1 where name = 'mail';
            insert into people.message (id, person_id, key, title, body, link, at) select gen_random_uuid(), p, 'odd:' || p || n,
                'Odd ' || n, 'Body', '/bookings', '2026-11-21 10:14Z' from unnest(array['m-5','m-4']) p, generate_series(1, 3) n;
            """
        );
        await using var box = new MailBox(port, null);
        await Worker(port).Once(TestContext.Current.CancellationToken);
        box.Mails.Count(m => m.Contains("Subject: Odd", StringComparison.Ordinal))
            .ShouldBe(3, "the other person's, three days old: nothing that waits is dropped");
        using var steward = await house.As("steward");
        (await steward.Get("/api/watch")).Body.ToString().ShouldContain("That is no mail address.");
        await using var command = house.Db.App.CreateCommand(
            "select count(*) from people.message where person_id = 'm-5' and mail_failed_at is not null and mailed_at is null"
        );
        (await command.ExecuteScalarAsync(TestContext.Current.CancellationToken)).ShouldBe(3L);
    }

    [Theory]
    [InlineData("<anna@x.example>")]
    [InlineData("Anna <anna@x.example>")]
    [InlineData("anna@x.example, ben@x.example")]
    [InlineData("anna@")]
    [InlineData("@x.example")]
    [InlineData("anna@x@example")]
    [InlineData("an na@x.example")]
    [InlineData("anna@x.example\u0001")]
    public async Task Person_WithAnOddAddress_IsRefused(string email)
    {
        using var keeper = await house.As("keeper");
        var answer = await keeper.Post(
            "/api/people",
            new
            {
                givenName = "Anna",
                familyName = "Odd",
                email,
            }
        );
        answer.Status.ShouldBe(HttpStatusCode.BadRequest);
        answer.Fields.ShouldBe(["email"]);
    }

    /// <summary>Whatever an account takes as an address, MimeKit reads as the same single address.</summary>
    [Fact]
    public void Address_ThatIsTaken_IsReadTheSameByTheMailLibrary()
    {
        var random = new Random(4711);
        const string letters = "abzAZ019.@-_+'<>(),;:\"\\[] äü%!#$&*/=?^`{|}~";
        var taken = 0;
        for (var i = 0; i < 200_000; i++)
        {
            var text = string.Concat(Enumerable.Range(0, random.Next(1, 14)).Select(_ => letters[random.Next(letters.Length)]));
            if (random.Next(2) == 0)
                text += "@x.example";
            if (!PeopleCsv.IsAddress(text))
                continue;
            taken++;
            MailboxAddress.TryParse(text, out var read).ShouldBeTrue(text);
            read.Address.ShouldBe(text);
        }
        taken.ShouldBeGreaterThan(1000);
    }

    private MailWorker Worker(int port) =>
        new(
            new OutgoingMail(house.Db.App),
            new MailSettings("127.0.0.1", port, "gate@house.example", "http://127.0.0.1:5080"),
            null,
            house.Clock,
            new WorkHealth(),
            NullLogger<MailWorker>.Instance
        );

    private static int FreePort()
    {
        using var listener = new System.Net.Sockets.TcpListener(IPAddress.Loopback, 0);
        listener.Start();
        return ((IPEndPoint)listener.LocalEndpoint).Port;
    }
}
