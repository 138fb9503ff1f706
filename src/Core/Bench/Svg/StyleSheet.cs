using ExCSS;

namespace VelvetGate.Core.Bench.Svg;

/// <summary>The properties of SVG painting that decide what is drawn.</summary>
internal static class SvgProperties
{
    public static readonly HashSet<string> Known = new(StringComparer.Ordinal)
    {
        "stroke", "fill", "fill-rule", "display", "visibility", "color", "stroke-width", "transform", "font-size", "clip-path", "mask",
        "d", "x", "y", "width", "height", "cx", "cy", "r", "rx", "ry",
    };
}

/// <summary>The style sheets inside a file, matched against its elements.</summary>
internal sealed class StyleSheet
{
    private static readonly StylesheetParser Parser = new(includeUnknownDeclarations: true, tolerateInvalidValues: true, includeUnknownRules: false);

    private readonly List<(ISelector Selector, Priority Weight, int Order, List<(string Name, string Value, bool Important)> Declarations)> _rules = [];
    private long _tests;

    public static StyleSheet Parse(IEnumerable<string> sheets)
    {
        var made = new StyleSheet();
        foreach (var text in sheets)
        {
            try
            {
                made.Add(Parser.Parse(text).Children);
            }
            catch (Exception e) when (e is ParseException or IndexOutOfRangeException or ArgumentException or NullReferenceException or InvalidOperationException or FormatException or OverflowException)
            {
                throw new UnreadableDrawingException("The style sheet inside the file cannot be read. Save it as plain SVG.");
            }
        }
        return made;
    }

    /// <summary>Declarations that match, weakest first; the later of two equals wins.</summary>
    public IEnumerable<(string Name, string Value, bool Important)> For(SvgNode node)
    {
        if (_rules.Count == 0) return [];
        _tests += _rules.Count;
        if (_tests > DrawingLimits.StyleTests) throw new UnreadableDrawingException("The style sheets in the file are too large to match. Save it as plain SVG.");
        return _rules
            .Select(r => (Rule: r, Weight: BestMatch(r.Selector, node)))
            .Where(m => m.Weight is not null)
            .OrderBy(m => m.Weight!.Value).ThenBy(m => m.Rule.Order)
            .SelectMany(m => m.Rule.Declarations);
    }

    /// <summary>Declarations of a <c>style</c> attribute.</summary>
    public static IEnumerable<(string Name, string Value, bool Important)> Inline(string style)
    {
        // Most are plain "a:b;c:d" lists, and a file can hold a hundred thousand of them.
        if (style.AsSpan().IndexOfAny("(\"'\\/") >= 0 && style.Length < 20_000)
        {
            foreach (var rule in Parser.Parse("*{" + style + "}").StyleRules)
            {
                foreach (var d in Declarations(rule)) yield return d;
            }
            yield break;
        }
        foreach (var part in style.Split(';', StringSplitOptions.RemoveEmptyEntries))
        {
            var colon = part.IndexOf(':');
            if (colon <= 0) continue;
            var name = part[..colon].Trim().ToLowerInvariant();
            var value = part[(colon + 1)..].Trim();
            var important = value.EndsWith("!important", StringComparison.OrdinalIgnoreCase);
            if (SvgProperties.Known.Contains(name)) yield return (name, important ? value[..^10].Trim() : value, important);
        }
    }

    private void Add(IEnumerable<IStylesheetNode> nodes)
    {
        foreach (var node in nodes)
        {
            if (node is IMediaRule media)
            {
                var when = media.Media.MediaText;
                if (when.Length == 0 || when.Contains("screen", StringComparison.OrdinalIgnoreCase) || when.Contains("all", StringComparison.OrdinalIgnoreCase))
                    Add(media.Children);
            }
            else if (node is IStyleRule rule)
            {
                if (_rules.Count >= DrawingLimits.StyleRules) throw new UnreadableDrawingException($"The file holds more than {DrawingLimits.StyleRules} style rules. Save it as plain SVG.");
                var declarations = Declarations(rule).ToList();
                if (declarations.Count > 0 && rule.Selector is not null) _rules.Add((rule.Selector, rule.Selector.Specificity, _rules.Count, declarations));
            }
        }
    }

    private static IEnumerable<(string, string, bool)> Declarations(IStyleRule rule) => rule.Style
        .Where(p => SvgProperties.Known.Contains(p.Name))
        .Select(p => (p.Name, p.Value, p.IsImportant));

    private static Priority? BestMatch(ISelector selector, SvgNode node)
    {
        if (selector is not ListSelector list) return Matches(selector, node) ? selector.Specificity : null;
        Priority? best = null;
        foreach (var one in list)
        {
            if (Matches(one, node) && (best is null || one.Specificity > best.Value)) best = one.Specificity;
        }
        return best;
    }

    private static bool Matches(ISelector selector, SvgNode node) => selector switch
    {
        ComplexSelector complex => MatchesComplex([.. complex], node),
        CompoundSelector compound => compound.All(part => Matches(part, node)),
        AllSelector => true,
        TypeSelector type => string.Equals(type.Name, node.Name, StringComparison.Ordinal),
        ClassSelector css => (node["class"] ?? "").Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries).Contains(css.Class),
        IdSelector id => id.Id == node.Id,
        AttrAvailableSelector has => node.Attributes.ContainsKey(has.Attribute),
        AttrMatchSelector equal => node[equal.Attribute] == equal.Value,
        AttrBeginsSelector begins => node[begins.Attribute]?.StartsWith(begins.Value, StringComparison.Ordinal) == true,
        AttrEndsSelector ends => node[ends.Attribute]?.EndsWith(ends.Value, StringComparison.Ordinal) == true,
        AttrContainsSelector contains => node[contains.Attribute]?.Contains(contains.Value, StringComparison.Ordinal) == true,
        NotSelector not => !Matches(not.Inner, node),
        PseudoClassSelector pseudo => pseudo.Class == "root" && node.Parent is null,
        FirstChildSelector { Step: 0, Offset: 1 } => node.Index == 0,
        _ => false,
    };

    private static bool MatchesComplex(CombinatorSelector[] parts, SvgNode node)
    {
        // The last part is the element itself; each delimiter says how the part before relates to it.
        if (parts.Length == 0 || !Matches(parts[^1].Selector, node)) return false;
        var here = node;
        for (var i = parts.Length - 2; i >= 0; i--)
        {
            var part = parts[i];
            if (part.Delimiter == ">")
            {
                here = here.Parent;
                if (here is null || !Matches(part.Selector, here)) return false;
            }
            else if (part.Delimiter is "+" or "~")
            {
                var sibling = Sibling(here, part.Selector, part.Delimiter == "+");
                if (sibling is null) return false;
                here = sibling;
            }
            else
            {
                do
                {
                    here = here.Parent;
                }
                while (here is not null && !Matches(part.Selector, here));
                if (here is null) return false;
            }
        }
        return true;
    }

    private static SvgNode? Sibling(SvgNode node, ISelector selector, bool adjacent)
    {
        if (node.Parent is not { } parent) return null;
        for (var i = node.Index - 1; i >= 0; i--)
        {
            if (Matches(selector, parent.Children[i])) return parent.Children[i];
            if (adjacent) return null;
        }
        return null;
    }
}
