using System.IO.Compression;
using System.Text;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Tests.Drawings.Dxf;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

public class DrawingFileTests
{
    private const string Svg =
        """<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm" viewBox="0 0 10 10"><path d="M0 0H3" stroke="red"/></svg>""";

    private static Drawing Read(byte[] bytes) => DrawingFile.Read(new MemoryStream(bytes));

    private static byte[] Zip(byte[] bytes)
    {
        using var packed = new MemoryStream();
        using (var zip = new GZipStream(packed, CompressionLevel.Fastest))
            zip.Write(bytes);
        return packed.ToArray();
    }

    [Fact]
    public void Format_IsToldByTheFirstBytes_PackedOrNot()
    {
        var dxf = Encoding.UTF8.GetBytes(DxfText.File(DxfText.Line(3, 4)));
        var utf16 = Encoding.Unicode.GetPreamble().Concat(Encoding.Unicode.GetBytes(Svg)).ToArray();
        foreach (
            var (bytes, format) in new[]
            {
                (Encoding.UTF8.GetBytes(Svg), "svg"),
                (dxf, "dxf"),
                ([0xEF, 0xBB, 0xBF, .. dxf], "dxf"),
                (utf16, "svg"),
                ([.. "999\nhello\n"u8, .. dxf], "dxf"),
            }
        )
        {
            Read(bytes).Format.ShouldBe(format);
            Read(Zip(bytes)).Format.ShouldBe(format);
        }
        var packed = Zip(Encoding.UTF8.GetBytes(Svg));
        Read(packed).Shapes.ShouldHaveSingleItem();
        Should.Throw<UnreadableDrawingException>(() => Read(packed[..^9])).Message.ShouldContain("damaged");
    }

    public static TheoryData<byte[], string> Others =>
        new()
        {
            { "%PDF-1.7"u8.ToArray(), "PDF" },
            { "AC1032\0\0"u8.ToArray(), "DWG" },
            { "AutoCAD Binary DXF\r\n"u8.ToArray(), "binary DXF" },
            { [], "empty" },
            { "Hello, this is no drawing."u8.ToArray(), "neither an SVG nor a DXF" },
            { [0x1F, 0x8B, 8, 0, 1, 2, 3], "damaged" },
        };

    [Theory]
    [MemberData(nameof(Others))]
    public void Other_FilesAreNamed_WithWhatToDo(byte[] bytes, string says)
    {
        var message = Should.Throw<UnreadableDrawingException>(() => Read(bytes)).Message;
        message.ShouldContain(says, Case.Insensitive);
        message.ShouldEndWith(".");
    }

    [Fact]
    public void Packed_BombsAndFilesPackedTwice_AreRefused_InBoundedMemory()
    {
        using var bomb = new MemoryStream();
        using (var zip = new GZipStream(bomb, CompressionLevel.Fastest, leaveOpen: true))
        {
            var zeros = new byte[1024 * 1024];
            for (var i = 0; i < 200; i++)
                zip.Write(zeros);
        }
        bomb.Length.ShouldBeLessThan(4_000_000);
        var before = GC.GetAllocatedBytesForCurrentThread();
        Should
            .Throw<UnreadableDrawingException>(() => Read(bomb.ToArray()))
            .Message.ShouldContain("Unpacked the file is larger than 64 MB");
        (GC.GetAllocatedBytesForCurrentThread() - before).ShouldBeLessThan(400_000_000);
        Should.Throw<UnreadableDrawingException>(() => Read(Zip(Zip(Encoding.UTF8.GetBytes(Svg))))).Message.ShouldContain("packed twice");
    }
}
