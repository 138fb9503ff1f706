using NodaTime;
using VelvetGate.Store.Db;
using VelvetGate.Store.Demo;

namespace VelvetGate.Cli;

/// <summary>
/// Makes, migrates and fills a database. Connections come from the environment, so that no password stands on a command line.
/// </summary>
internal static class DatabaseCommands
{
    /// <summary>As administrator (<c>VELVETGATE_ADMIN_DB</c>): roles and an empty database.</summary>
    public static async Task<int> Create(IReadOnlyList<string> args)
    {
        var name = args is [var given] ? given : "velvetgate";
        await Database.Create(Need("VELVETGATE_ADMIN_DB"), name, Need("VELVETGATE_OWNER_PASSWORD"), Need("VELVETGATE_APP_PASSWORD"));
        return 0;
    }

    /// <summary>As administrator: removes a database and all in it.</summary>
    public static async Task<int> Drop(string name)
    {
        await Database.Drop(Need("VELVETGATE_ADMIN_DB"), name);
        return 0;
    }

    /// <summary>Brings the database up; with <c>--wake-demo</c> sets the demo's clock as well, in one start of this program.</summary>
    public static async Task<int> Migrate(IReadOnlyList<string> args)
    {
        var options = Options.Parse(args, ["--now", "--stand-ins"], ["--wake-demo", "--no-stand-ins"]);
        Database.Migrate(Need("VELVETGATE_OWNER_DB"));
        return options.Has("--wake-demo") ? await WakeDemo(args.Where(a => a != "--wake-demo").ToList()) : 0;
    }

    public static async Task<int> Seed(IReadOnlyList<string> args)
    {
        var options = Options.Parse(args, ["--now"], []);
        var now = options["--now"] is null ? DemoDay.Afternoon(SystemClock.Instance.GetCurrentInstant()) : NowOf(options);
        // Two thousand small transactions that can be made again: they need not wait for the disk.
        await using var db = Database.Open(Need("VELVETGATE_OWNER_DB") + ";Options=-c synchronous_commit=off");
        if (!await new DemoSeed(db, now).Run(default))
            Console.Error.WriteLine("The house is not empty; the demo was left as it is.");
        return 0;
    }

    /// <summary>
    /// Sets the demo's clock for this start: to the instant given, else so that the house is awake. A server that runs keeps its time.
    /// </summary>
    public static async Task<int> WakeDemo(IReadOnlyList<string> args)
    {
        var options = Options.Parse(args, ["--now", "--stand-ins"], ["--no-stand-ins"]);
        var real = SystemClock.Instance.GetCurrentInstant();
        await using var db = Database.Open(Need("VELVETGATE_OWNER_DB"));
        var clock = new DemoClockStore(db);
        if (options["--now"] is null && await clock.Running(real, default) is { } shift)
        {
            await BindControllers(db, options, real + shift);
            return 0;
        }
        var at = options["--now"] is null ? await new DemoDay(db).Wake(real, default) : NowOf(options);
        await clock.Set(at - SystemClock.Instance.GetCurrentInstant(), default);
        await BindControllers(db, options, at);
        return 0;
    }

    /// <summary>
    /// With <c>--stand-ins FILE</c> the demo’s machines get simulated controllers, whose keys are written to the file; with
    /// <c>--no-stand-ins</c> they are let go.
    /// </summary>
    private static async Task BindControllers(Npgsql.NpgsqlDataSource db, Options options, Instant now)
    {
        var controllers = new DemoControllers(db, now);
        if (options.Has("--no-stand-ins"))
            await controllers.LetGo(default);
        if (options["--stand-ins"] is not { } file)
            return;
        var keys = new Core.Station.Controllers.StationKeys(Need("VELVETGATE_STATION_KEY"));
        await controllers.Bind(keys, null, default);
        await controllers.Learn(keys, default);
        var runs = await new DemoSession(db, now).Run(default);
        var bound = await controllers.Bind(keys, runs ? (MachineId?)"swift" : null, default);
        Directory.CreateDirectory(Path.GetDirectoryName(Path.GetFullPath(file))!);
        await File.WriteAllTextAsync(file, System.Text.Json.JsonSerializer.Serialize(bound, System.Text.Json.JsonSerializerOptions.Web));
        if (!OperatingSystem.IsWindows())
            File.SetUnixFileMode(file, UnixFileMode.UserRead | UnixFileMode.UserWrite);
    }

    /// <summary>For a house that has locked itself out: gives somebody with an open account the keeper's role, in the record.</summary>
    public static async Task<int> MakeKeeper(string id)
    {
        await using var db = Database.Open(Need("VELVETGATE_OWNER_DB"));
        if (!await new Store.People.AccountStore(db).MakeKeeper(id, SystemClock.Instance.GetCurrentInstant(), default))
            throw new UsageException($"There is nobody “{id}” with an open account.");
        Console.Out.WriteLine($"{id} is a keeper. It stands in the record.");
        return 0;
    }

    /// <summary>What <c>--now</c> gives.</summary>
    private static Instant NowOf(Options options)
    {
        var parsed = Instants.Parse(options["--now"]!);
        return parsed.Refusal is { } refusal ? throw new UsageException($"--now: {refusal.Text}") : parsed.Value;
    }

    public static string Need(string variable) =>
        Environment.GetEnvironmentVariable(variable) is { Length: > 0 } value
            ? value
            : throw new UsageException($"Set {variable} to a PostgreSQL connection.");
}
