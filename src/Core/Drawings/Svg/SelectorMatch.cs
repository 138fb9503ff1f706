using ExCSS;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>
/// Matches selectors against elements as they stand in the file. Source: W3C Selectors Level 4. A copy by <c>use</c> is matched where its
/// original stands (SVG 2, section 5.6).
/// </summary>
internal sealed class SelectorMatch
{
    private readonly Dictionary<ComplexSelector, CombinatorSelector[]> _parts = new(ReferenceEqualityComparer.Instance);
    private long _tests;

    /// <exception cref="UnreadableDrawingException">More was tried than any honest file needs.</exception>
    public bool Matches(ISelector selector, SvgNode node)
    {
        if (++_tests > DrawingLimits.StyleTests)
            throw new UnreadableDrawingException("The style sheets in the file are too large to match. Save it as plain SVG.");
        return selector switch
        {
            ComplexSelector complex => Complex(Parts(complex), node),
            CompoundSelector compound => All(compound, node),
            ListSelector list => Any(list, node),
            AllSelector => true,
            TypeSelector type => string.Equals(type.Name, node.Name, StringComparison.Ordinal),
            ClassSelector css => node.Classes.Contains(css.Class),
            IdSelector id => id.Id == node.Id,
            AttrAvailableSelector has => node.Attributes.ContainsKey(has.Attribute),
            AttrMatchSelector equal => node[equal.Attribute] == equal.Value,
            AttrBeginsSelector begins => begins.Value.Length > 0
                && node[begins.Attribute]?.StartsWith(begins.Value, StringComparison.Ordinal) == true,
            AttrEndsSelector ends => ends.Value.Length > 0 && node[ends.Attribute]?.EndsWith(ends.Value, StringComparison.Ordinal) == true,
            AttrContainsSelector contains => contains.Value.Length > 0
                && node[contains.Attribute]?.Contains(contains.Value, StringComparison.Ordinal) == true,
            AttrListSelector word => (node[word.Attribute] ?? "")
                .Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)
                .Contains(word.Value),
            AttrHyphenSelector dashed => node[dashed.Attribute] is { } value
                && (value == dashed.Value || value.StartsWith(dashed.Value + "-", StringComparison.Ordinal)),
            NotSelector not => !Matches(not.Inner, node),
            MatchesSelector any => Matches(any.Inner, node),
            FirstChildSelector nth => Nth(nth, node.Index + 1),
            LastChildSelector nth => Nth(nth, node.Siblings - node.Index),
            FirstTypeSelector nth => Nth(nth, node.OfType.Index + 1),
            LastTypeSelector nth => Nth(nth, node.OfType.Count - node.OfType.Index),
            PseudoClassSelector pseudo => Structural(pseudo.Class, node),
            _ => false,
        };
    }

    /// <summary>
    /// True for a selector that this reader does not know: what it would match is not known either. States of a screen, such as hover,
    /// never hold.
    /// </summary>
    public static bool IsUnread(ISelector selector) =>
        selector switch
        {
            UnknownSelector or HasSelector => true,
            ComplexSelector complex => complex.Any(part => IsUnread(part.Selector)),
            CompoundSelector compound => compound.Any(IsUnread),
            ListSelector list => list.Any(IsUnread),
            NotSelector not => IsUnread(not.Inner),
            MatchesSelector any => IsUnread(any.Inner),
            _ => false,
        };

    private static bool Structural(string name, SvgNode node) =>
        name switch
        {
            "root" => node.Parent is null,
            "first-child" => node.Index == 0,
            "last-child" => node.Index == node.Siblings - 1,
            "only-child" => node.Siblings == 1,
            "first-of-type" => node.OfType.Index == 0,
            "last-of-type" => node.OfType.Index == node.OfType.Count - 1,
            "only-of-type" => node.OfType.Count == 1,
            "empty" => node.Children.Count == 0 && node.Text is null,
            _ => false,
        };

    /// <summary>Whether a place, counted from 1, is one of step × n + offset for an n of 0 or more.</summary>
    private static bool Nth(ChildSelector nth, int place) =>
        nth.Step == 0 ? place == nth.Offset : (place - nth.Offset) % nth.Step == 0 && (place - nth.Offset) / nth.Step >= 0;

    private CombinatorSelector[] Parts(ComplexSelector complex) =>
        _parts.TryGetValue(complex, out var parts) ? parts : _parts[complex] = [.. complex];

    private bool All(CompoundSelector compound, SvgNode node)
    {
        foreach (var part in compound)
        {
            if (!Matches(part, node))
                return false;
        }
        return true;
    }

    private bool Any(ListSelector list, SvgNode node)
    {
        foreach (var one in list)
        {
            if (Matches(one, node))
                return true;
        }
        return false;
    }

    // The last part is the element itself; each delimiter says how the part before relates to it.
    private bool Complex(CombinatorSelector[] parts, SvgNode node) =>
        parts.Length > 0 && Matches(parts[^1].Selector, node) && Before(parts, parts.Length - 2, node);

    private bool Before(CombinatorSelector[] parts, int i, SvgNode node)
    {
        if (i < 0)
            return true;
        var part = parts[i];
        switch (part.Delimiter)
        {
            case ">":
                return node.Parent is { } parent && Matches(part.Selector, parent) && Before(parts, i - 1, parent);
            case "+":
                return node.Index > 0
                    && node.Parent!.Children[node.Index - 1] is var last
                    && Matches(part.Selector, last)
                    && Before(parts, i - 1, last);
            case "~":
                for (var k = node.Index - 1; k >= 0; k--)
                {
                    if (node.Parent!.Children[k] is var sibling && Matches(part.Selector, sibling) && Before(parts, i - 1, sibling))
                        return true;
                }
                return false;
            default:
                for (var up = node.Parent; up is not null; up = up.Parent)
                {
                    if (Matches(part.Selector, up) && Before(parts, i - 1, up))
                        return true;
                }
                return false;
        }
    }
}
