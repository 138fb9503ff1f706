using ExCSS;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>The properties of SVG painting that decide what is drawn.</summary>
internal static class SvgProperties
{
    public static readonly HashSet<string> Known = new(StringComparer.Ordinal)
    {
        "stroke",
        "fill",
        "fill-rule",
        "display",
        "visibility",
        "color",
        "stroke-width",
        "transform",
        "font-size",
        "clip-path",
        "mask",
        "d",
        "x",
        "y",
        "width",
        "height",
        "cx",
        "cy",
        "r",
        "rx",
        "ry",
    };
}

/// <summary>The style sheets inside a file, matched against its elements.</summary>
internal sealed class StyleSheet
{
    private static readonly StylesheetParser Parser = new(
        includeUnknownDeclarations: true,
        tolerateInvalidValues: true,
        includeUnknownRules: false
    );

    /// <summary>One selector of a rule: a list counts as a rule for each.</summary>
    private sealed record Rule(ISelector Selector, int Order, List<(string Name, string Value, bool Important)> Declarations);

    private readonly Dictionary<string, List<Rule>> _rules = new(StringComparer.Ordinal);
    private readonly SelectorMatch _match = new();
    private int _count;

    /// <summary>Rules that say something of the drawing, and whose selector this reader does not know.</summary>
    public int Unread { get; private set; }

    public static StyleSheet Parse(IEnumerable<string> sheets)
    {
        var made = new StyleSheet();
        foreach (var text in sheets)
        {
            try
            {
                made.Add(Parser.Parse(text).Children);
            }
            catch (Exception e)
                when (e
                        is ParseException
                            or IndexOutOfRangeException
                            or ArgumentException
                            or NullReferenceException
                            or InvalidOperationException
                            or FormatException
                            or OverflowException
                )
            {
                throw new UnreadableDrawingException("The style sheet inside the file cannot be read. Save it as plain SVG.");
            }
        }
        return made;
    }

    /// <summary>Declarations that match, weakest first; the later of two equals wins.</summary>
    public IEnumerable<(string Name, string Value, bool Important)> For(SvgNode node)
    {
        if (_rules.Count == 0)
            return [];
        var found = new List<Rule>();
        Look(node.Name);
        Look("*");
        if (node.Id is { } own)
            Look("#" + own);
        foreach (var css in node.Classes)
            Look("." + css);
        return found.OrderBy(r => r.Selector.Specificity).ThenBy(r => r.Order).SelectMany(r => r.Declarations);

        void Look(string key)
        {
            if (_rules.TryGetValue(key, out var rules))
                found.AddRange(rules.Where(r => _match.Matches(r.Selector, node)));
        }
    }

    /// <summary>Declarations of a <c>style</c> attribute.</summary>
    public static IEnumerable<(string Name, string Value, bool Important)> Inline(string style)
    {
        // Most are plain "a:b;c:d" lists, and a file can hold a hundred thousand of them.
        if (style.AsSpan().IndexOfAny("(\"'\\/") >= 0 && style.Length < 20_000)
        {
            foreach (var rule in Parser.Parse("*{" + style + "}").StyleRules)
            {
                foreach (var d in Declarations(rule))
                    yield return d;
            }
            yield break;
        }
        foreach (var part in style.Split(';', StringSplitOptions.RemoveEmptyEntries))
        {
            var colon = part.IndexOf(':');
            if (colon <= 0)
                continue;
            var name = part[..colon].Trim().ToLowerInvariant();
            var value = part[(colon + 1)..].Trim();
            var important = value.EndsWith("!important", StringComparison.OrdinalIgnoreCase);
            if (SvgProperties.Known.Contains(name))
                yield return (name, important ? value[..^10].Trim() : value, important);
        }
    }

    private void Add(IEnumerable<IStylesheetNode> nodes)
    {
        foreach (var node in nodes)
        {
            if (node is IMediaRule media)
            {
                var when = media.Media.MediaText;
                if (
                    when.Length == 0
                    || when.Contains("screen", StringComparison.OrdinalIgnoreCase)
                    || when.Contains("all", StringComparison.OrdinalIgnoreCase)
                )
                    Add(media.Children);
            }
            else if (node is IStyleRule rule)
            {
                if (_count >= DrawingLimits.StyleRules)
                    throw new UnreadableDrawingException(
                        $"The file holds more than {DrawingLimits.StyleRules} style rules. Save it as plain SVG."
                    );
                var declarations = Declarations(rule).ToList();
                if (declarations.Count > 0 && rule.Selector is not null)
                    Add(rule.Selector, declarations);
            }
        }
    }

    private void Add(ISelector selector, List<(string, string, bool)> declarations)
    {
        _count++;
        if (SelectorMatch.IsUnread(selector))
        {
            Unread++;
            return;
        }
        foreach (var one in selector is ListSelector list ? list.AsEnumerable() : [selector])
        {
            var key = Key(one);
            if (!_rules.TryGetValue(key, out var rules))
                _rules[key] = rules = [];
            rules.Add(new Rule(one, _count, declarations));
        }
    }

    private static IEnumerable<(string, string, bool)> Declarations(IStyleRule rule) =>
        rule.Style.Where(p => SvgProperties.Known.Contains(p.Name)).Select(p => (p.Name, p.Value, p.IsImportant));

    /// <summary>
    /// What every element that the selector can match has: its id, else one of its classes, else its kind; all elements where it names
    /// none.
    /// </summary>
    private static string Key(ISelector selector) =>
        selector switch
        {
            ComplexSelector complex => complex.LastOrDefault() is { Selector: { } last } ? Key(last) : "*",
            CompoundSelector compound => compound.Select(Key).MinBy(Rank) ?? "*",
            IdSelector id => "#" + id.Id,
            ClassSelector css => "." + css.Class,
            TypeSelector type => type.Name,
            _ => "*",
        };

    private static int Rank(string key) =>
        key[0] switch
        {
            '#' => 0,
            '.' => 1,
            '*' => 3,
            _ => 2,
        };
}
