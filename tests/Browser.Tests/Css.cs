using System.Text.RegularExpressions;
using OpenQA.Selenium;

namespace VelvetGate.Browser.Tests;

/// <summary>Selectors that name a class as its room does; the build writes <c>lane_x1y2z</c> for a room's <c>lane</c>.</summary>
internal static partial class Css
{
    public static By By(string selector) => OpenQA.Selenium.By.CssSelector(Of(selector));

    public static string Of(string selector) =>
        Class()
            .Replace(selector, m =>
                m.Groups["class"] is { Success: true, Value: var name }
                    ? $":is(.{name},[class^=\"{name}_\"],[class*=\" {name}_\"])"
                    : m.Value
            );

    /// <summary>The same, where a script asks for elements.</summary>
    public static string InScript(string script) =>
        Asked().Replace(script, m => $"{m.Groups["call"].Value}(`{Of(m.Groups["selector"].Value)}`)");

    // What stands in quotes is no class.
    [GeneratedRegex("""'[^']*'|"[^"]*"|\.(?<class>[a-zA-Z][\w-]*)""")]
    private static partial Regex Class();

    [GeneratedRegex(@"(?<call>querySelector(?:All)?)\('(?<selector>[^']*)'\)")]
    private static partial Regex Asked();
}
