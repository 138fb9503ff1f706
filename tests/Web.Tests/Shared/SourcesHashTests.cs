using System.Diagnostics;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Shared;

/// <summary>A second start builds nothing: what a build leaves behind is no source.</summary>
public class SourcesHashTests
{
    private static async Task<string> Hash()
    {
        using var bash = Process.Start(
            new ProcessStartInfo("bash", ["-c", "ROOT=\"$0\"; source scripts/lib.sh; sources_hash", Repo.Path()])
            {
                WorkingDirectory = Repo.Path(),
                RedirectStandardOutput = true,
            }
        )!;
        var text = await bash.StandardOutput.ReadToEndAsync(TestContext.Current.CancellationToken);
        await bash.WaitForExitAsync(TestContext.Current.CancellationToken);
        return text.Trim();
    }

    [Fact]
    public async Task Hash_OfTheSources_IsThatOfBefore_WhateverABuildLeft()
    {
        var before = await Hash();
        before.Length.ShouldBe(64);
        var left = Repo.Path("src", "Client", "probe.tsbuildinfo");
        await File.WriteAllTextAsync(left, "built", TestContext.Current.CancellationToken);
        try
        {
            (await Hash()).ShouldBe(before);
        }
        finally
        {
            File.Delete(left);
        }
    }
}
