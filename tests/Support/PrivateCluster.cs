using System.Diagnostics;

namespace VelvetGate.Tests.Support;

/// <summary>A PostgreSQL cluster of one test's own, which may be killed: the same functions as <c>./start</c> use.</summary>
public sealed class PrivateCluster : IAsyncDisposable
{
    private readonly string _name = $"kill-{Guid.NewGuid():N}";

    private PrivateCluster() { }

    /// <summary>As administrator.</summary>
    public string Admin { get; private set; } = "";

    public string OwnerPassword { get; private set; } = "";

    public string AppPassword { get; private set; } = "";

    public static async Task<PrivateCluster> Start()
    {
        var cluster = new PrivateCluster();
        await cluster.Up();
        return cluster;
    }

    /// <summary>Starts it, or starts it again on the port it had.</summary>
    public async Task Up()
    {
        var lines = (
            await Bash(
                "pg_up \"$HOME_DIR\" && printf '%s\\n%s\\n%s\\n' \"$VELVETGATE_ADMIN_DB\" \"$VELVETGATE_OWNER_PASSWORD\" "
                    + "\"$VELVETGATE_APP_PASSWORD\""
            )
        ).Split('\n');
        (Admin, OwnerPassword, AppPassword) = (lines[0], lines[1], lines[2]);
    }

    /// <summary>As <c>kill -9</c> of the postmaster: its children notice and end, and nothing is written down in order.</summary>
    public Task Kill() =>
        Bash(
            "kill -9 \"$(head -n 1 \"$HOME_DIR/data/postmaster.pid\")\"; for i in $(seq 100); do pg_isready -h 127.0.0.1 -p "
                + "\"$(cat \"$HOME_DIR/port\")\" -q || break; sleep 0.1; done"
        );

    public async ValueTask DisposeAsync() => await Bash("pg_down \"$HOME_DIR\"; rm -rf \"$HOME_DIR\"");

    private async Task<string> Bash(string script)
    {
        var start = new ProcessStartInfo(
            "bash",
            ["-c", $"source scripts/lib.sh; HOME_DIR=$(pg_home {_name}); PATH=$(pg_bin):$PATH; {script}"]
        )
        {
            WorkingDirectory = Repo.Path(),
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        using var process = Process.Start(start)!;
        var (said, wrong) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        // The server keeps the pipes of its start open: wait for the script, not for them.
        await process.WaitForExitAsync();
        if (process.ExitCode != 0)
            throw new InvalidOperationException($"{script}: {await wrong}");
        return await said;
    }
}
