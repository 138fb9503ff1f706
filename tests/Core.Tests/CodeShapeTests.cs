using Microsoft.CodeAnalysis;
using Microsoft.CodeAnalysis.CSharp;
using Microsoft.CodeAnalysis.CSharp.Syntax;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Core.Tests;

/// <summary>What a reader's eye has to hold: lines, files and folders stay small. The lists of exceptions only shrink.</summary>
public class CodeShapeTests
{
    private const int LongestLine = 140;
    private const int MostFiles = 25;
    private const int MostUnnamed = 6;
    private const int MostFlags = 2;

    private static IEnumerable<string> Sources(params string[] kinds) =>
        new[] { "src", "tests", "bench" }
            .SelectMany(top => Directory.EnumerateFiles(Repo.Path(top), "*", SearchOption.AllDirectories))
            .Where(f => kinds.Contains(Path.GetExtension(f)))
            .Select(f => Path.GetRelativePath(Repo.Path(), f).Replace('\\', '/'))
            .Where(f => !f.Split('/').Any(part => part is "obj" or "bin" or "node_modules" or "dist" or "baseline"))
            .Where(f => !f.EndsWith("api-types.d.ts", StringComparison.Ordinal));

    /// <summary>Files with the number of lines they may have too long.</summary>
    private static Dictionary<string, int> Listed(string list) =>
        File.ReadAllLines(Repo.Path("tests", "Core.Tests", list))
            .Where(l => l.Length > 0)
            .Select(l => l.Split(' '))
            .ToDictionary(l => l[1], l => int.Parse(l[0], System.Globalization.CultureInfo.InvariantCulture), StringComparer.Ordinal);

    private static void ShouldBeListed(Dictionary<string, int> found, string list)
    {
        if (Environment.GetEnvironmentVariable("VELVETGATE_WRITE") == "1")
            File.WriteAllLines(
                Repo.Path("tests", "Core.Tests", list),
                found.OrderBy(f => f.Key, StringComparer.Ordinal).Select(f => $"{f.Value} {f.Key}")
            );
        var allowed = Listed(list);
        found.Where(f => f.Value > allowed.GetValueOrDefault(f.Key)).ShouldBeEmpty($"More than {list} allows: write it shorter.");
        allowed.Where(a => a.Value > found.GetValueOrDefault(a.Key)).ShouldBeEmpty($"Better than {list} says: take it off the list.");
    }

    [Fact]
    public void Lines_AreShort() =>
        ShouldBeListed(
            Sources(".cs", ".ts", ".tsx", ".css", ".sql")
                .Select(f => (File: f, Long: File.ReadLines(Repo.Path(f)).Count(l => l.Length > LongestLine)))
                .Where(f => f.Long > 0)
                .ToDictionary(f => f.File, f => f.Long, StringComparer.Ordinal),
            "long-lines.txt"
        );

    [Fact]
    public void Folders_AreSmall() =>
        ShouldBeListed(
            Sources(".cs", ".ts", ".tsx")
                .GroupBy(f => Path.GetDirectoryName(f)!.Replace('\\', '/'))
                .Where(g => g.Count() > MostFiles)
                .ToDictionary(g => g.Key, g => g.Count(), StringComparer.Ordinal),
            "large-folders.txt"
        );

    /// <summary>What is made of many values says which is which.</summary>
    [Fact]
    public void MadeOfMany_NamesItsArguments() =>
        Count("src", n =>
                n is BaseObjectCreationExpressionSyntax { ArgumentList.Arguments: var arguments }
                && arguments.Count(a => a.NameColon is null) > MostUnnamed
            )
            .ShouldBeEmpty();

    /// <summary>Nobody reads what the third yes or no of a call says.</summary>
    [Fact]
    public void YesAndNo_AreNotPiled() =>
        Count("src", n =>
                n is ParameterListSyntax { Parameters: var parameters, Parent: not RecordDeclarationSyntax }
                && parameters.Count(p => p.Type is PredefinedTypeSyntax { Keyword.RawKind: (int)SyntaxKind.BoolKeyword }) > MostFlags
            )
            .ShouldBeEmpty();

    private static Dictionary<string, int> Count(string root, Func<SyntaxNode, bool> odd) =>
        Sources(".cs")
            .Where(f => f.StartsWith(root + "/", StringComparison.Ordinal))
            .AsParallel()
            .Select(f => (File: f, Odd: CSharpSyntaxTree.ParseText(File.ReadAllText(Repo.Path(f))).GetRoot().DescendantNodes().Count(odd)))
            .Where(f => f.Odd > 0)
            .ToDictionary(f => f.File, f => f.Odd, StringComparer.Ordinal);
}
