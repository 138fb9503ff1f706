using System.Diagnostics;

namespace VelvetGate.Tests.Support;

/// <summary>Programs that this project did not make, asked what they read.</summary>
public static class Outside
{
    /// <exception cref="InvalidOperationException">It ended with an error.</exception>
    public static async Task<string> Run(string program, params string[] arguments)
    {
        using var process = Process.Start(
            new ProcessStartInfo(program, arguments) { RedirectStandardOutput = true, RedirectStandardError = true }
        )!;
        var (text, errors) = (process.StandardOutput.ReadToEndAsync(), process.StandardError.ReadToEndAsync());
        await process.WaitForExitAsync();
        return process.ExitCode == 0 ? await text : throw new InvalidOperationException($"{program}: {await errors}");
    }

    /// <summary>The published command line of the house.</summary>
    public static (int Exit, string Out, string Error) Vg(params string[] args)
    {
        var app = Environment.GetEnvironmentVariable("VELVETGATE_APP")
            ?? throw new InvalidOperationException("VELVETGATE_APP is not set: run ./test web.");
        return Give("dotnet", [Path.Combine(app, "cli", "vg.dll"), .. args], "");
    }

    /// <summary>A script that reads JSON from its input and writes JSON: an independent answer to the same question.</summary>
    public static string Python(string script, string input)
    {
        var (exit, text, error) = Give("/usr/bin/python3", ["-c", script], input);
        return exit == 0 ? text : throw new InvalidOperationException(error);
    }

    private static (int Exit, string Out, string Error) Give(string program, string[] args, string input)
    {
        var start = new ProcessStartInfo(program, args)
        {
            RedirectStandardInput = true,
            RedirectStandardOutput = true,
            RedirectStandardError = true,
        };
        using var process = Process.Start(start)!;
        var error = process.StandardError.ReadToEndAsync();
        process.StandardInput.Write(input);
        process.StandardInput.Close();
        var output = process.StandardOutput.ReadToEnd();
        process.WaitForExit();
        return (process.ExitCode, output, error.Result);
    }

    /// <summary>What pdftotext reads on a paper.</summary>
    /// <summary>What ZBar reads from the pages of a PDF that poppler drew.</summary>
    public static async Task<IReadOnlyList<string>> CodesOf(byte[] pdf)
    {
        var folder = Directory.CreateTempSubdirectory("vg-codes-").FullName;
        try
        {
            var file = Path.Combine(folder, "codes.pdf");
            await File.WriteAllBytesAsync(file, pdf);
            await Run("pdftoppm", "-r", "150", "-png", file, Path.Combine(folder, "page"));
            var read = await Run("zbarimg", ["-q", "--raw", .. Directory.GetFiles(folder, "*.png")]);
            return read.Split('\n', StringSplitOptions.RemoveEmptyEntries);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    public static async Task<string> TextOf(byte[] pdf)
    {
        var file = Path.Combine(Path.GetTempPath(), $"{Guid.NewGuid()}.pdf");
        await File.WriteAllBytesAsync(file, pdf);
        try
        {
            return await Run("pdftotext", "-layout", file, "-");
        }
        finally
        {
            File.Delete(file);
        }
    }
}
