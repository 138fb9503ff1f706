using System.Net;
using Shouldly;
using VelvetGate.Tests.Support;
using Xunit;

namespace VelvetGate.Web.Tests.Materials;

/// <summary>
/// What is printed is read back by programs that this project did not make: pdftotext and pdftoppm (poppler), zbarimg (ZBar).
/// </summary>
public class LabelPrintTests(WebHouse house) : IClassFixture<WebHouse>
{
    private static async Task<(string Folder, string File)> Fetch(Api api, string path)
    {
        var answer = (await api.Get(path)).Response;
        answer.StatusCode.ShouldBe(HttpStatusCode.OK);
        var folder = Directory.CreateTempSubdirectory("vg-labels-").FullName;
        var file = Path.Combine(folder, "labels.pdf");
        await File.WriteAllBytesAsync(
            file,
            await answer.Content.ReadAsByteArrayAsync(TestContext.Current.CancellationToken),
            TestContext.Current.CancellationToken
        );
        return (folder, file);
    }

    [Fact]
    public async Task Labels_AreReadBackByIndependentReaders()
    {
        using var member = await house.As("member");
        string[] tags = ["S-0097", "S-0101", "S-0104"];
        var (folder, file) = await Fetch(member, $"/api/sheet-labels.pdf?tags={string.Join(',', tags)}&skip=22");
        try
        {
            var text = await Outside.Run("pdftotext", "-layout", file, "-");
            foreach (var tag in tags)
                text.ShouldContain(tag);
            text.ShouldContain("Birch plywood, laser grade");
            text.ShouldContain("3 mm, 600 × 400");
            text.Count(c => c == '\f').ShouldBe(2, "22 of 24 labels are used already, so the third starts a second page");
            await Outside.Run("pdftoppm", "-r", "150", "-png", file, Path.Combine(folder, "page"));
            var codes = await Outside.Run("zbarimg", ["-q", "--raw", .. Directory.GetFiles(folder, "*.png")]);
            codes
                .Split('\n', StringSplitOptions.RemoveEmptyEntries)
                .Order(StringComparer.Ordinal)
                .ShouldBe(tags.Select(t => $"http://127.0.0.1:5080/sheets/{t}"));
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Theory]
    [InlineData("", "What may go in", "http://127.0.0.1:5080/list", "612 x 792|595 x 842")]
    [InlineData("?machine=wren&paper=a3", "Wren: what may go in", "http://127.0.0.1:5080/list/wren", "842 x 1191")]
    public async Task Poster_HasWhatStaysOutFirst_AndTheWayBack(string query, string title, string address, string size)
    {
        using var visitor = await house.As(null);
        var (folder, file) = await Fetch(visitor, $"/api/list.pdf{query}");
        try
        {
            var text = (await Outside.Run("pdftotext", file, "-")).ReplaceLineEndings(" ");
            text.ShouldContain(title);
            text.IndexOf("Never", StringComparison.Ordinal).ShouldBeLessThan(text.IndexOf("Permitted", StringComparison.Ordinal));
            text.ShouldContain("Vinyl record");
            text.ShouldContain("made 24 November 2026, 10:15");
            text.ShouldContain("To be looked at again: EVA foam");
            var info = await Outside.Run("pdfinfo", file);
            size.Split('|')
                .ShouldContain(
                    s =>
                        info.Contains(s, StringComparison.Ordinal)
                        || info.Replace(".28 x 841.89", " x 842", StringComparison.Ordinal).Contains(s, StringComparison.Ordinal),
                    info
                );
            await Outside.Run("pdftoppm", "-r", "150", "-png", file, Path.Combine(folder, "page"));
            foreach (var page in Directory.GetFiles(folder, "*.png"))
                (await Outside.Run("zbarimg", "-q", "--raw", page)).Trim().ShouldBe(address);
        }
        finally
        {
            Directory.Delete(folder, recursive: true);
        }
    }

    [Theory]
    [InlineData("", "tags")]
    [InlineData("tags=S-0097&skip=24", "skip")]
    public async Task Wrong_IsNamed(string query, string field)
    {
        using var member = await house.As("member");
        (await member.Get($"/api/sheet-labels.pdf?{query}")).Fields.ShouldBe([field]);
    }

    [Fact]
    public async Task Code_OfASheet_IsForEverybody()
    {
        using var visitor = await house.As(null);
        var code = (await visitor.Get("/api/sheets/S-0097/code.svg")).Response;
        code.Content.Headers.ContentType!.MediaType.ShouldBe("image/svg+xml");
        (await visitor.Get("/api/sheets/S-7777/code.svg")).Status.ShouldBe(HttpStatusCode.NotFound);
    }
}
