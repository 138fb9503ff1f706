using System.Text.Json;

namespace VelvetGate.Web.Public;

/// <summary>Script and styles of the public pages, under the names that the build of the front end gave them.</summary>
public sealed class PublicFiles
{
    private const string Entry = "src/public/public.ts";
    private static readonly string[] StationEntries = ["index.html", "src/station/pages.ts"];

    public PublicFiles(IWebHostEnvironment environment)
    {
        var manifest = environment.WebRootFileProvider.GetFileInfo(".vite/manifest.json");
        if (!manifest.Exists)
        {
            // Without a build the pages come through the front end's own server, which knows its sources.
            (Script, Styles, Others, Station) = ($"/{Entry}", [], [], []);
            return;
        }
        using var stream = manifest.CreateReadStream();
        using var read = JsonDocument.Parse(stream);
        var chunks = read.RootElement;
        Script = "/" + chunks.GetProperty(Entry).GetProperty("file").GetString();
        var (styles, others, seen) = (new List<string>(), new List<string>(), new HashSet<string>());
        Gather(Entry);
        Styles = [.. styles.Distinct()];
        Others = [.. others.Distinct().Where(o => o != Script)];
        // The same once more for the screen at a machine: what the cards have is kept already.
        foreach (var entry in StationEntries)
            Gather(entry);
        Station = [.. styles.Concat(others).Distinct().Except([.. Styles, Script, .. Others])];

        void Gather(string name)
        {
            if (!seen.Add(name))
                return;
            var chunk = chunks.GetProperty(name);
            others.Add("/" + chunk.GetProperty("file").GetString());
            if (chunk.TryGetProperty("imports", out var imports))
                foreach (var import in imports.EnumerateArray())
                    Gather(import.GetString()!);
            if (chunk.TryGetProperty("css", out var css))
                styles.AddRange(css.EnumerateArray().Select(c => "/" + c.GetString()));
            if (chunk.TryGetProperty("assets", out var assets))
                others.AddRange(assets.EnumerateArray().Select(a => "/" + a.GetString()));
        }
    }

    public string Script { get; }

    public IReadOnlyList<string> Styles { get; }

    /// <summary>What script and styles need beside them, such as fonts: a browser without a network has to have it too.</summary>
    public IReadOnlyList<string> Others { get; }

    /// <summary>What the screen at a machine needs beside those: it comes up again without a network.</summary>
    public IReadOnlyList<string> Station { get; }
}
