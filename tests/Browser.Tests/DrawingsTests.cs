using OpenQA.Selenium;
using OpenQA.Selenium.Interactions;
using QRCoder;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>Drawings: read, judged, looked at closely, mended.</summary>
[Collection(Houses.Sheets)]
public sealed class DrawingsTests(LiveServer server) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("vg-files-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    private string File(string name, string text)
    {
        var path = Path.Combine(_folder, name);
        System.IO.File.WriteAllText(path, text);
        return path;
    }

    [Fact]
    public void RealFile_ShowsSizeLengthsAndNumberedFindings_AndGoesToTheGate()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        var file = File(
            "panel with a rather long name for a ship's lantern, third try.svg",
            "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><g fill='none' "
                + "stroke='#9c2f4f'><rect x='5' y='5' width='50' height='60'/><rect x='55' y='5' width='50' height='60'/></g><path "
                + "d='M10 10h20' fill='none' stroke='#00aa00'/><text x='10' y='70'>Fore</text></svg>"
        );
        browser.There("input[type=file]").SendKeys(file);
        browser.WaitFor("Must mend");
        browser
            .Driver.FindElements(Css.By(".findings li"))
            .Select(f => f.GetAttribute("data-code"))
            .ShouldBe(["line.duplicate", "colour.unknown", "text.live"]);
        browser.WaitFor("60 mm of cut line drawn more than once");
        browser.Driver.FindElements(Css.By(".pinmark")).Count.ShouldBe(3);
        browser.Find(".docket").Text.ShouldContain("440");
        browser.Type("Thickness", "1/8 in");
        browser.WaitFor("Run time");
        browser.Type("Thickness", "thin");
        browser.WaitFor("is not a length");
        browser.Press("Take it to the gate");
        browser.WaitFor("ship's lantern");
    }

    [Fact]
    public void DxfFile_StandsUpright_WithItsFindings()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        const string line = "0\nLINE\n420\n10235727\n10\n10\n20\n100\n11\n90\n21\n100\n";
        browser
            .There("input[type=file]")
            .SendKeys(
                File(
                    "bracket.dxf",
                    $"0\nSECTION\n2\nENTITIES\n{line}{line}0\nCIRCLE\n420\n10235727\n10\n50\n20\n30\n40\n20\n0\nHATCH\n2\nSOLID\n0\nENDSEC\n0\nEOF\n"
                )
            );
        browser.WaitFor("80 mm of cut line drawn more than once");
        browser.WaitFor("1 HATCH: not drawn here");
        var sheet = browser.Number(
            "const box = document.querySelector('.sheetview').getBoundingClientRect(); return box.top + box.height / 2"
        );
        var pin = browser.Number("return document.querySelector('.pinmark circle').getBoundingClientRect().top");
        pin.ShouldBeLessThan(sheet, "the line at y = 100 stands in the upper half, the circle at y = 30 below");
        LookTests.Look(browser, "a DXF");
    }

    [Fact]
    public void NearlyDoubledLine_IsShownAndMeasured_AndTheViewMovesByKeys()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        browser
            .There("input[type=file]")
            .SendKeys(
                File(
                    "near.svg",
                    "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><g fill='none' "
                        + "stroke='#9c2f4f'><path d='M5 5h100M10 5.12h60M5 20h50M5 40h100M10 40.15h30'/></g><path d='M9 60h20' "
                        + "fill='none' stroke='#2e6e8e'/></svg>"
                )
            );
        browser.WaitFor("90 mm of cut line runs nearer to another cut than the beam is wide (0.2 mm)");
        browser.Driver.FindElements(Css.By(".pinmark")).Count.ShouldBe(browser.Driver.FindElements(Css.By(".findings li")).Count);
        browser.Find("li[data-code='line.near'] button").Click();
        browser.WaitFor("0.12 mm apart");
        browser.Press("Next place");
        browser.WaitFor("0.15 mm apart");
        browser.WaitFor("2 of 2");
        var before = browser.Find(".pinmark.chosen").GetAttribute("transform");
        var sheet = browser.Find(".sheetview");
        sheet.SendKeys("-" + Keys.ArrowLeft);
        browser.Find(".pinmark.chosen").GetAttribute("transform").ShouldNotBe(before);
        sheet.SendKeys("0");
        browser.Driver.FindElements(By.XPath("//button[.='All of it'][@disabled]")).Count.ShouldBe(1);
        browser.Find("[id='layer-#2e6e8e']").Click();
        browser.Find("[id='layer-#2e6e8e']").Selected.ShouldBeFalse();
        LookTests.Look(browser, "a nearly doubled line");
    }

    [Fact]
    public void Mend_ShowsBeforeAndAfter_AndPutsTheCopyOnTheBench()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        browser
            .There("input[type=file]")
            .SendKeys(
                File(
                    "tiles.svg",
                    "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><g fill='none' "
                        + "stroke='#9c2f4f'><rect x='5' y='5' width='40' height='30'/><rect x='45' y='5' width='40' height='30'/><path "
                        + "d='M5 60h60M5 60.1h40'/></g></svg>"
                )
            );
        browser.WaitFor("30 mm of cut line drawn more than once");
        browser.Type("Close gaps up to", "a little");
        browser.Press("Show what it does");
        browser.WaitFor("is not a length");
        browser.Field("Close gaps up to").GetAttribute("value").ShouldBe("a little");
        browser.Type("Close gaps up to", "0.1 mm");
        browser.Press("Show what it does");
        browser.WaitFor("30 mm of doubled line taken out");
        browser.WaitFor("40 mm of nearly doubled line taken out");
        browser.Find("[aria-label='Findings']").Text.ShouldNotContain("drawn more than once");
        browser.Press("Before");
        browser.Find("[aria-label='Findings']").Text.ShouldContain("drawn more than once");
        browser.Press("Keep it");
        browser.WaitFor("tiles, mended.svg");
        browser.WaitGone("drawn more than once");
        LookTests.Look(browser, "a mended drawing");
    }

    [Fact]
    public void BrokenFile_SaysWhatToDo_AndKeepsThePage()
    {
        using var browser = new Browser(server.Address).As("trainer", "/drawings");
        browser.WaitFor("No drawing yet");
        browser.There("input[type=file]").SendKeys(File("broken.svg", "<svg xmlns='http://www.w3.org/2000/svg'><path"));
        browser.WaitFor("not well-formed SVG");
        browser.Text.ShouldContain("No drawing yet");
    }

    /// <summary>While the view moves no line is read or drawn anew, however many there are: the last picture moves.</summary>
    [Fact]
    public void Moving_ReadsNoLineAnew()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        browser
            .There("input[type=file]")
            .SendKeys(
                File(
                    "many.svg",
                    "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><path d='"
                        + string.Concat(Enumerable.Range(0, 2000).Select(i => $"M{i % 50 * 2} {i / 50 * 2}h1v1"))
                        + "' fill='none' stroke='#9c2f4f'/></svg>"
                )
            );
        browser.WaitFor("Run time");
        browser.Run<object?>("const P = window.Path2D; window.made = 0; window.Path2D = function (d) { window.made++; return new P(d) }");
        var sheet = browser.Find(".sheetview");
        for (var i = 0; i < 6; i++)
            sheet.SendKeys(Keys.ArrowLeft + "+");
        browser.Number("return window.made").ShouldBe(0);
        browser.Find("button[aria-label='Zoom in']").Click();
        browser.Number("return window.made").ShouldBe(0);
    }

    private string Code()
    {
        using var data = QRCodeGenerator.GenerateQrCode("velvet", QRCodeGenerator.ECCLevel.M);
        var path = Path.Combine(_folder, "code for the tool wall.png");
        System.IO.File.WriteAllBytes(path, new PngByteQRCode(data).GetGraphic(20));
        return path;
    }

    /// <summary>The share of dark pixels in the middle of the canvas.</summary>
    private static double Dark(Browser browser) =>
        browser.Number(
            "const c = document.querySelector('canvas.sheetlines'), w = c.width >> 1, h = c.height >> 1, d = "
                + "c.getContext('2d').getImageData(w - 60, h - 60, 120, 120).data; let n = 0; for (let i = 0; i < d.length; i += 4) if "
                + "(d[i + 3] > 200 && d[i] < 60) n++; return n / 14400"
        );

    [Fact]
    public void Picture_IsSeen_Judged_AndPlacedAsWideAsItIsWanted()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        browser.There("input[type=file]").SendKeys(Code());
        browser.WaitFor("of only 96 pixels to the inch");
        browser.WaitFor("The file states no size");
        browser.Wait(() => Dark(browser) is > 0.2 and < 0.8, "the code itself, half dark and half light");
        browser.Type("Or set the whole width", "wide");
        browser.Press("Show what it does");
        browser.WaitFor("is not a length");
        browser.Type("Or set the whole width", "30 mm");
        browser.Press("Show what it does");
        browser.WaitFor("Left out: 1 pixel picture, where it is taken as DXF");
        browser.Wait(() => Dark(browser) is > 0.2 and < 0.8, "the code as it would be placed");
        browser.Press("Keep it");
        browser.WaitFor("code for the tool wall, mended.svg");
        browser.WaitFor("30 × 30");
        browser.WaitGone("of only 96 pixels to the inch");
        LookTests.Look(browser, "a picture");
        browser.Type("Thickness", "1/8 in");
        browser.Press("Take it to the gate");
        browser.WaitFor("Still to fill in: the material, the machine.");
        browser.Text.ShouldContain("May Ines Calloway engrave ");
    }

    [Fact]
    public void Clamp_MarkedByPointingAndByTyping_IsJudged_AndSeenInAnotherWindow()
    {
        using var browser = new Browser(server.Address).As("member", "/drawings");
        browser
            .There("input[type=file]")
            .SendKeys(
                File(
                    "held.svg",
                    "<svg xmlns='http://www.w3.org/2000/svg' width='200mm' height='100mm' viewBox='0 0 200 100'><path d='M10 "
                        + "30h40v40h-40z' fill='none' stroke='#9c2f4f'/></svg>"
                )
            );
        browser.WaitFor("Run time");
        browser.Unfold("Clamps and weights on the sheet");
        browser.Press("Mark there");
        browser.WaitFor("Type a length, such as");
        browser.Find("#clamp-across").SendKeys("wide");
        browser.Press("Mark there");
        browser.WaitFor("“wide” is not a length");
        browser.Find("#clamp-across").GetAttribute("value").ShouldBe("wide", "typed work is kept");
        browser.Find("#clamp-across").SendKeys(Keys.Backspace + Keys.Backspace + Keys.Backspace + Keys.Backspace);
        browser.Find("#clamp-x").SendKeys("160");
        browser.Find("#clamp-y").SendKeys("50,5");
        browser.Press("Mark there");
        browser.WaitFor("at 160 × 50.5 mm, 20 wide");
        browser.Text.ShouldNotContain("frame.obstructed", Case.Sensitive, "it stands clear of the part");
        using var second = new Browser(server.Address).As("member", new Uri(browser.Driver.Url).AbsolutePath);
        second.WaitFor("at 160 × 50.5 mm");
        browser.Press("Mark on the drawing");
        var sheet = browser.Find(".sheetview");
        // Whole in the window: a driver points from the middle of what is seen.
        browser.Driver.ExecuteScript("arguments[0].scrollIntoView({ block: 'center', behavior: 'instant' })", sheet);
        // The part lies left of the middle; the page is 200 mm wide and fills the box but for 34 pixels on each side.
        new Actions(browser.Driver).MoveToElement(sheet, -(int)(sheet.Size.Width * 0.35), 0).Click().Perform();
        browser.WaitFor("1 clamp stands within 15 mm of the frame");
        browser.WaitFor("2 marked");
        browser.Driver.FindElements(Css.By(".clampmark")).Count.ShouldBe(2);
        LookTests.Look(browser, "clamps");
        // The other window still shows one, and is told.
        second.Driver.FindElements(Css.By("[aria-label='Take off clamp 1']")).Single().Click();
        second.WaitFor("changed in another window");
        second.WaitFor("2 marked");
        browser.Find("[aria-label='Take off clamp 2']").Click();
        browser.WaitGone("frame.obstructed");
    }

    [Fact]
    public void View_ByTouch_MovesByOneFinger_AndZoomsByTwo()
    {
        using var browser = new Browser(server.Address, phone: true).As("member", "/drawings");
        browser
            .There("input[type=file]")
            .SendKeys(
                File(
                    "touch.svg",
                    "<svg xmlns='http://www.w3.org/2000/svg' width='120mm' height='80mm' viewBox='0 0 120 80'><path d='M5 5h100M10 "
                        + "5.12h60' fill='none' stroke='#9c2f4f'/><text x='60' y='40'>Fore</text></svg>"
                )
            );
        browser.WaitFor("Must mend");
        browser.Run<object?>("document.querySelector('.sheetview').scrollIntoView({ block: 'center', behavior: 'instant' })");
        var sheet = browser.Find(".sheetview");
        (double X, double Y)[] Pins() =>
            [
                .. browser
                    .Driver.FindElements(Css.By(".pinmark"))
                    .Select(p => p.GetAttribute("transform")!)
                    .Select(t => t["translate(".Length..^1].Split(' '))
                    .Select(t =>
                        (
                            double.Parse(t[0], System.Globalization.CultureInfo.InvariantCulture),
                            double.Parse(t[1], System.Globalization.CultureInfo.InvariantCulture)
                        )
                    ),
            ];
        var before = Pins();
        before.Length.ShouldBeGreaterThanOrEqualTo(2);
        Touch(browser, sheet, [((0, 100), (60, 60))]);
        var moved = Pins();
        (moved[0].X - before[0].X).ShouldBe(60, 1.5);
        (moved[0].Y - before[0].Y).ShouldBe(-40, 1.5);
        Touch(browser, sheet, [((-66, 0), (-44, 0)), ((66, 0), (44, 0))]);
        var zoomed = Pins();
        (Apart(zoomed) / Apart(moved)).ShouldBe(2.0 / 3, 0.03, "fingers two thirds as far apart, the drawing two thirds as large");

        static double Apart((double X, double Y)[] pins) =>
            Math.Sqrt(Math.Pow(pins[0].X - pins[^1].X, 2) + Math.Pow(pins[0].Y - pins[^1].Y, 2));
    }

    /// <summary>Fingers go down at once and move in steps, from places to places in pixels from the middle of the box.</summary>
    private static void Touch(Browser browser, IWebElement box, ((int X, int Y) From, (int X, int Y) To)[] fingers)
    {
        browser.Driver.PerformActions([
            .. fingers.Select(
                (f, i) =>
                {
                    const int steps = 8;
                    var finger = new PointerInputDevice(PointerKind.Touch, $"finger {i}");
                    var sequence = new ActionSequence(finger);
                    sequence.AddAction(finger.CreatePointerMove(box, f.From.X, f.From.Y, TimeSpan.Zero));
                    sequence.AddAction(finger.CreatePointerDown(MouseButton.Touch));
                    for (var n = 1; n <= steps; n++)
                        sequence.AddAction(
                            finger.CreatePointerMove(
                                box,
                                f.From.X + (f.To.X - f.From.X) * n / steps,
                                f.From.Y + (f.To.Y - f.From.Y) * n / steps,
                                TimeSpan.FromMilliseconds(20)
                            )
                        );
                    sequence.AddAction(finger.CreatePointerUp(MouseButton.Touch));
                    return sequence;
                }
            ),
        ]);
    }
}
