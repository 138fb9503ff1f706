using NodaTime;
using VelvetGate.Bench;
using VelvetGate.Store.Db;

// bench svg | bench layouts | bench jobs | bench pairs | bench http APP_FOLDER PORT
// Connections come from the environment, as bench/run sets them.
switch (args)
{
    case ["svg"]:
        SvgBench.Run();
        return 0;
    case ["pairs"]:
        LayoutsBench.Pairs();
        return 0;
    case ["jobs"]:
        JobsBench.Run();
        return 0;
    case ["layouts"]:
        LayoutsBench.Run();
        return 0;
    case ["http", var app, var port, .. var which]:
        var now = SystemClock.Instance.GetCurrentInstant();
        string Need(string name) =>
            Environment.GetEnvironmentVariable(name) ?? throw new InvalidOperationException($"{name} is not set: call bench/run.");
        await using (var owner = Database.Open(Need("BENCH_OWNER_DB")))
        await using (var appDb = Database.Open(Need("BENCH_APP_DB")))
        {
            Database.Migrate(Need("BENCH_OWNER_DB"));
            await Prepared.Fill(owner, now);
            using var server = await Server.Start(
                app,
                Need("BENCH_APP_DB"),
                int.Parse(port, System.Globalization.CultureInfo.InvariantCulture)
            );
            if (which.Length == 0 || which.Contains("gate"))
                await GateBench.Run(server, appDb, now);
            if (which.Length == 0 || which.Contains("booking"))
                await BookingBench.Run(server, owner, now);
            if (which.Length == 0 || which.Contains("standing"))
                await StandingBench.Run(server, owner, appDb, now);
            if (which.Length == 0 || which.Contains("watch"))
                await WatchBench.Run(server, owner, now);
            if (which.Length == 0 || which.Contains("settings"))
                await SettingsBench.Run(owner, appDb, now);
            // Last: these change what the others measure.
            if (which.Length == 0 || which.Contains("soonest"))
                await SoonestBench.Run(server, owner, appDb, now);
            if (which.Length == 0 || which.Contains("use"))
                await UseBench.Run(server, owner, appDb, now);
            if (which.Length == 0 || which.Contains("upkeep"))
                await UpkeepBench.Run(server, owner, appDb, now);
            if (which.Length == 0 || which.Contains("matrix"))
                await MatrixBench.Run(server, owner, now);
            if (which.Length == 0 || which.Contains("shelf"))
                await ShelfBench.Run(server, owner, now);
        }
        return 0;
    case ["station", var app, var port, var brokerPort, var seconds]:
        await StationHouse.Run(
            app,
            port,
            brokerPort,
            TimeSpan.FromSeconds(int.Parse(seconds, System.Globalization.CultureInfo.InvariantCulture))
        );
        return 0;
    default:
        Console.Error.WriteLine(
            "bench svg | bench layouts | bench jobs | bench pairs | bench http APP_FOLDER PORT [shelf] [gate] [watch] "
                + "[booking] [standing] [settings] [soonest] [use] [upkeep] [matrix] | bench station APP_FOLDER PORT BROKER_PORT SECONDS"
        );
        return 2;
}
