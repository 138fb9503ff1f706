using Dapper;
using Npgsql;
using VelvetGate.Core.Training;

namespace VelvetGate.Store.Training;

/// <summary>Puts the laser safety course that ships into a database; what a house has already stays as it is.</summary>
internal static class StartingCourse
{
    public static void Write(NpgsqlConnection connection)
    {
        using var transaction = connection.BeginTransaction();
        connection.Execute(
            "insert into training.module (id, kind, title, topic, position) values (@Id, @kind, @Title, @topic, @position) on "
                + "conflict do nothing",
            StartingTraining
                .Readings.Select(
                    (r, i) =>
                        new
                        {
                            r.Id,
                            kind = "reading",
                            r.Title,
                            topic = r.Id,
                            position = i,
                        }
                )
                .Append(
                    new
                    {
                        Id = ModuleRules.SafetyQuiz,
                        kind = "quiz",
                        Title = "Laser safety quiz",
                        topic = "",
                        position = StartingTraining.Readings.Count,
                    }
                )
                .Concat(
                    StartingTraining.Further.Select(
                        (r, i) =>
                            new
                            {
                                r.Id,
                                kind = "reading",
                                r.Title,
                                topic = "",
                                position = StartingTraining.Readings.Count + 1 + i,
                            }
                    )
                ),
            transaction
        );
        connection.Execute(
            "insert into training.page (module_id, version, body, check_text, options) values (@Id, 1, @Body, @Check, @options) on "
                + "conflict do nothing",
            StartingTraining
                .Readings.Concat(StartingTraining.Further)
                .Select(r => new
                {
                    r.Id,
                    r.Body,
                    r.Check,
                    options = r.Options.ToArray(),
                }),
            transaction
        );
        connection.Execute(
            "insert into training.question (id, topic, body, position) values (@Id, @Topic, @body::jsonb, @position) on conflict "
                + "do nothing",
            StartingTraining.Questions.Select(
                (q, i) =>
                    new
                    {
                        q.Id,
                        q.Topic,
                        body = GateJson.Write(q),
                        position = i,
                    }
            ),
            transaction
        );
        connection.Execute(
            "insert into training.practical (id, version, title, steps) values (@Id, @Version, @Title, @steps::jsonb) on conflict "
                + "do nothing",
            StartingPracticals.All.Select(p => new
            {
                p.Id,
                p.Version,
                p.Title,
                steps = GateJson.Write(p.Steps),
            }),
            transaction
        );
        transaction.Commit();
    }
}
