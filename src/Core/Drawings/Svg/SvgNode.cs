using System.Text;
using System.Text.RegularExpressions;
using System.Xml;

namespace VelvetGate.Core.Drawings.Svg;

/// <summary>An element with its attributes by local name (<c>href</c> and <c>xlink:href</c> are one).</summary>
internal sealed class SvgNode(string name, SvgNode? parent)
{
    public string Name { get; } = name;

    public SvgNode? Parent { get; } = parent;

    public Dictionary<string, string> Attributes { get; } = new(StringComparer.Ordinal);

    public List<SvgNode> Children { get; } = [];

    /// <summary>Text directly inside; kept only for style sheets.</summary>
    public StringBuilder? Text { get; set; }

    /// <summary>Place among its parent's children, from 0.</summary>
    public int Index { get; init; }

    /// <summary>Elements of its parent, itself included; 1 for the root.</summary>
    public int Siblings => Parent?.Children.Count ?? 1;

    /// <summary>Its classes, each once they are asked for.</summary>
    public string[] Classes =>
        field ??= Attributes.TryGetValue("class", out var text) ? text.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries) : [];

    /// <summary>Its place, from 0, among the elements of the same kind beside it, and how many they are.</summary>
    public (int Index, int Count) OfType
    {
        get
        {
            if (Parent is null)
                return (0, 1);
            Parent._kinds ??= CountKinds(Parent.Children);
            return (_ofType, Parent._kinds[Name]);
        }
    }

    private int _ofType;
    private Dictionary<string, int>? _kinds;

    // All at once: asking each for itself would be quadratic in a flat file.
    private static Dictionary<string, int> CountKinds(List<SvgNode> children)
    {
        var kinds = new Dictionary<string, int>(StringComparer.Ordinal);
        foreach (var child in children)
        {
            child._ofType = kinds.GetValueOrDefault(child.Name);
            kinds[child.Name] = child._ofType + 1;
        }
        return kinds;
    }

    public string? Id => Attributes.GetValueOrDefault("id");

    public string? this[string attribute] => Attributes.GetValueOrDefault(attribute);
}

/// <summary>Reads XML without recursion and within <see cref="DrawingLimits"/>. No external entity is ever fetched.</summary>
internal static partial class SvgTree
{
    /// <exception cref="UnreadableDrawingException">Not well-formed, not SVG, or beyond a limit.</exception>
    public static SvgNode Read(Stream stream, CancellationToken patience)
    {
        var settings = new XmlReaderSettings
        {
            DtdProcessing = DtdProcessing.Parse,
            XmlResolver = null,
            MaxCharactersFromEntities = DrawingLimits.EntityCharacters,
            MaxCharactersInDocument = DrawingLimits.Bytes * 2,
            IgnoreComments = true,
            IgnoreProcessingInstructions = true,
        };
        try
        {
            using var reader = XmlReader.Create(stream, settings);
            return Build(reader, patience);
        }
        catch (XmlException e)
        {
            throw new UnreadableDrawingException(
                $"The file is not well-formed SVG (line {e.LineNumber}, place {e.LinePosition}). Save it again from your drawing program."
            );
        }
        catch (Exception e)
            when (e is ArgumentException or InvalidOperationException or System.Text.DecoderFallbackException or IndexOutOfRangeException)
        {
            throw new UnreadableDrawingException("The file is not SVG text. Save it again as SVG from your drawing program.");
        }
    }

    private static SvgNode Build(XmlReader reader, CancellationToken patience)
    {
        SvgNode? root = null;
        SvgNode? here = null;
        var count = 0;
        while (reader.Read())
        {
            patience.ThrowIfCancellationRequested();
            switch (reader.NodeType)
            {
                case XmlNodeType.DocumentType when ExternalEntity().IsMatch(reader.Value):
                    throw new UnreadableDrawingException(
                        "The file asks for another file by an external entity, which is never fetched. Save it as plain SVG."
                    );
                case XmlNodeType.Element:
                    if (++count > DrawingLimits.Elements)
                        throw new UnreadableDrawingException($"The file holds more than {DrawingLimits.Elements} elements. Split it.");
                    if (reader.Depth > DrawingLimits.Depth)
                        throw new UnreadableDrawingException(
                            $"The file nests deeper than {DrawingLimits.Depth} levels. Ungroup it in your drawing program."
                        );
                    var node = ReadElement(reader, here);
                    if (root is null && node.Name != "svg")
                        throw new UnreadableDrawingException(
                            $"This is XML, but its root is <{Short(node.Name)}>, not <svg>. Export it as SVG."
                        );
                    root ??= node;
                    if (!reader.IsEmptyElement)
                        here = node;
                    break;
                case XmlNodeType.EndElement:
                    here = here?.Parent;
                    break;
                case XmlNodeType.Text
                or XmlNodeType.CDATA
                or XmlNodeType.SignificantWhitespace when here is { Name: "style" or "text" or "tspan" }:
                    (here.Text ??= new StringBuilder()).Append(reader.Value);
                    break;
            }
        }
        return root ?? throw new UnreadableDrawingException("The file is empty. Choose another file.");
    }

    private static SvgNode ReadElement(XmlReader reader, SvgNode? parent)
    {
        // Elements of other namespaces (editor data) are kept by prefix so that they never pass for drawing.
        var foreign = reader.NamespaceURI.Length > 0 && reader.NamespaceURI != "http://www.w3.org/2000/svg";
        var node = new SvgNode(foreign ? "{foreign}" + reader.LocalName : reader.LocalName, parent) { Index = parent?.Children.Count ?? 0 };
        for (var more = reader.MoveToFirstAttribute(); more; more = reader.MoveToNextAttribute())
        {
            if (reader.NamespaceURI.Length == 0)
                node.Attributes[reader.LocalName] = reader.Value;
            else if (reader.LocalName == "href")
                node.Attributes.TryAdd("href", reader.Value);
        }
        reader.MoveToElement();
        parent?.Children.Add(node);
        return node;
    }

    [GeneratedRegex(@"<!ENTITY\s+(%\s+)?\S+\s+(SYSTEM|PUBLIC)\b")]
    private static partial Regex ExternalEntity();

    private static string Short(string name) => name.Length > 30 ? name[..30] + "…" : name;
}
