using Dapper;
using NodaTime;
using Npgsql;
using VelvetGate.Store.Db;

namespace VelvetGate.Store.People;

/// <param name="Link">Path inside the application.</param>
public sealed record Mail(Guid Id, string To, string Name, string Title, string Body, string Link, Instant At, int Tries);

/// <summary>What came of trying to send one mail. Closed: these are all the cases.</summary>
public abstract record MailOutcome
{
    private MailOutcome() { }

    public sealed record Sent : MailOutcome;

    /// <summary>This mail cannot be sent, now or at all; others may.</summary>
    /// <param name="ForGood">The server says so for good, or the address is none.</param>
    public sealed record Failed(string Why, bool ForGood) : MailOutcome;
}

/// <summary>Messages on their way into people's mail boxes.</summary>
public sealed class OutgoingMail(NpgsqlDataSource db)
{
    private const string Cursor = "mail";

    /// <summary>So long a mail is tried again before it is given up.</summary>
    private static readonly Duration Patience = Duration.FromDays(3);

    private static readonly Duration LongestPause = Duration.FromHours(6);

    /// <summary>Who switches mail on is not flooded with what was told before: from now on, unless it was on before.</summary>
    public async Task SwitchOn(Instant now, CancellationToken cancel)
    {
        await using var connection = await db.OpenConnectionAsync(cancel);
        await connection.ExecuteAsync(
            new CommandDefinition(
                "update ledger.worker_cursor set seq = @seconds where name = @Cursor and seq = 0",
                new { Cursor, seconds = now.ToUnixTimeSeconds() },
                cancellationToken: cancel
            )
        );
    }

    /// <summary>
    /// Sends the oldest message that waits, and marks it in the same transaction. A crash in between sends it once more, with the same
    /// Message-ID.
    /// </summary>
    /// <returns>False when none waits.</returns>
    public Task<bool> SendNext(Func<Mail, Task<MailOutcome>> send, Instant now, CancellationToken cancel) =>
        Transaction.Run(
            db,
            async (connection, transaction) =>
            {
                var since = Instant.FromUnixTimeSeconds(
                    await connection.ExecuteScalarAsync<long>(
                        "select seq from ledger.worker_cursor where name = @Cursor",
                        new { Cursor },
                        transaction
                    )
                );
                var mail = await connection.QueryFirstOrDefaultAsync<Mail>(
                    """
                    select m.id, p.email as "to", p.given_name || ' ' || p.family_name as name, m.title, m.body, m.link, m.at,
                        m.mail_tries as tries
                    from people.message m join people.person p on p.id = m.person_id
                    where m.mailed_at is null and m.mail_failed_at is null and (m.mail_next is null or m.mail_next <= @now)
                        and p.email is not null and not p.erased and m.at >= @since
                    order by m.number limit 1 for update of m skip locked
                    """,
                    new { since, now },
                    transaction
                );
                if (mail is null)
                    return (false, false);
                if (await send(mail) is MailOutcome.Failed failed)
                {
                    var givenUp = failed.ForGood || now - mail.At > Patience;
                    await connection.ExecuteAsync(
                        "update people.message set mail_tries = mail_tries + 1, mail_next = @next, mail_failure = @why, "
                            + "mail_failed_at = @failedAt where id = @Id",
                        new
                        {
                            mail.Id,
                            next = now + Pause(mail.Tries),
                            why = failed.Why.Length > 300 ? failed.Why[..300] : failed.Why,
                            failedAt = givenUp ? now : (Instant?)null,
                        },
                        transaction
                    );
                }
                else
                {
                    await connection.ExecuteAsync(
                        "update people.message set mailed_at = @now where id = @Id",
                        new { mail.Id, now },
                        transaction
                    );
                }
                return (true, true);
            },
            cancel
        );

    /// <summary>One minute, then twice as long each time.</summary>
    private static Duration Pause(int tries) => Duration.Min(LongestPause, Duration.FromMinutes(Math.Pow(2, Math.Min(tries, 10))));
}
