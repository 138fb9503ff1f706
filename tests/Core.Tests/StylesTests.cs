using System.Text.RegularExpressions;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests;

/// <summary>A room's styles are its own: all it asks for is there, nothing else is, and nothing leaks into other rooms.</summary>
public partial class StylesTests
{
    private static readonly string Client = Repo.Path("src", "Client", "src");

    /// <summary>Of the whole house: ground and marks, frame, forms, and the pages that the server writes.</summary>
    private static readonly string[] OfTheHouse = ["kit/theme/", "kit/sheetform.css", "app/app.css", "public/"];

    private static IEnumerable<string> Files(string pattern) => Directory.EnumerateFiles(Client, pattern, SearchOption.AllDirectories);

    public static TheoryData<string> Modules => [.. Files("*.module.css").Select(f => Path.GetRelativePath(Client, f)).Order()];

    [Theory]
    [MemberData(nameof(Modules))]
    public void Module_HasEveryClassThatIsAskedOfIt_AndNoOther(string file)
    {
        var path = Path.Combine(Client, file);
        var asked = new SortedSet<string>(StringComparer.Ordinal);
        foreach (var code in Files("*.ts*"))
        {
            var text = File.ReadAllText(code);
            var folder = Path.GetDirectoryName(code)!;
            foreach (var import in Import().Matches(text).Where(i => Path.GetFullPath(i.Groups["from"].Value, folder) == path))
            {
                var classes = new Regex($@"\b{import.Groups["name"].Value}(?:\.|\[')(?<class>[\w-]+)");
                asked.UnionWith(classes.Matches(text).Select(m => m.Groups["class"].Value));
            }
        }
        var has = Class().Matches(Elsewhere().Replace(File.ReadAllText(path), "")).Select(m => m.Groups["class"].Value);
        new SortedSet<string>(has, StringComparer.Ordinal).ShouldBe(asked);
    }

    [Fact]
    public void Rooms_HaveModulesAlone() =>
        Files("*.css")
            .Select(f => Path.GetRelativePath(Client, f).Replace('\\', '/'))
            .Where(f => !f.EndsWith(".module.css", StringComparison.Ordinal))
            .Where(f => !OfTheHouse.Any(h => f.StartsWith(h, StringComparison.Ordinal)))
            .ShouldBeEmpty();

    [GeneratedRegex(@"import (?<name>\w+) from '(?<from>[^']+\.module\.css)'")]
    private static partial Regex Import();

    [GeneratedRegex(@"\.(?<class>[a-zA-Z_][\w-]*)")]
    private static partial Regex Class();

    /// <summary>Comments, and classes of the whole house.</summary>
    [GeneratedRegex(@"/\*.*?\*/|:global\([^)]*\)", RegexOptions.Singleline)]
    private static partial Regex Elsewhere();
}
