using System.Globalization;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Chromium;
using OpenQA.Selenium.Support.UI;

namespace VelvetGate.Browser.Tests;

/// <summary>One window of a headless Chromium, used as a person would: by role, label and words.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(15);
    private readonly string _address;
    private readonly string _profile = Directory.CreateTempSubdirectory("vg-browser-").FullName;

    public Browser(string address, bool phone = false)
    {
        _address = address;
        var options = new ChromeOptions { BinaryLocation = "/usr/bin/chromium" };
        options.AddArguments(
            "--headless=new",
            "--no-sandbox",
            "--disable-gpu",
            "--disable-quic",
            "--no-first-run",
            "--disable-background-networking",
            "--disable-component-update",
            "--disable-sync",
            "--hide-scrollbars",
            "--force-prefers-reduced-motion",
            "--window-size=1280,900",
            $"--user-data-dir={_profile}"
        );
        if (phone)
            options.EnableMobileEmulation(
                new ChromiumMobileEmulationDeviceSettings
                {
                    Width = 390,
                    Height = 844,
                    PixelRatio = 2,
                    EnableTouchEvents = true,
                    UserAgent =
                        "Mozilla/5.0 (Linux; Android 16; Phone) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/156.0.0.0 Mobile "
                        + "Safari/537.36",
                }
            );
        options.SetLoggingPreference(LogType.Browser, LogLevel.Severe);
        Driver = new ChromeDriver(ChromeDriverService.CreateDefaultService("/usr/bin", "chromedriver"), options, TimeSpan.FromSeconds(150));
        Driver.Manage().Timeouts().AsynchronousJavaScript = TimeSpan.FromSeconds(120);
    }

    public ChromeDriver Driver { get; }

    public string Text => Driver.FindElement(By.TagName("body")).Text;

    public void Open(string path) =>
        Driver.Navigate().GoToUrl(path.StartsWith("about:", StringComparison.Ordinal) ? path : _address + path);

    /// <summary>Signs in by the form and waits for the day.</summary>
    public Browser As(string name, string path = "/watch")
    {
        Open("/");
        Type("Name", name);
        Type("Password", "ropewalk");
        Press("Sign in");
        Wait(() => Driver.FindElements(By.CssSelector("nav.rail")).Count > 0, $"{name} is signed in");
        if (path != "/watch")
            Open(path);
        return this;
    }

    public void Wait(Func<bool> done, string what)
    {
        var wait = new WebDriverWait(Driver, Patience)
        {
            PollingInterval = TimeSpan.FromMilliseconds(60),
            Message = $"Waited for: {what}. The page says: ",
        };
        wait.IgnoreExceptionTypes(
            typeof(StaleElementReferenceException),
            typeof(NoSuchElementException),
            typeof(ElementClickInterceptedException),
            typeof(ElementNotInteractableException)
        );
        try
        {
            wait.Until(_ => done());
        }
        catch (WebDriverTimeoutException e)
        {
            throw new InvalidOperationException($"Waited for: {what}. The page says: {Text}", e);
        }
    }

    /// <summary>Waits until the page says any of these words.</summary>
    public void WaitFor(params string[] words) =>
        Wait(() => words.Any(w => Text.Contains(w, StringComparison.OrdinalIgnoreCase)), $"“{string.Join("” or “", words)}”");

    public void WaitGone(string words) => Wait(() => !Text.Contains(words, StringComparison.OrdinalIgnoreCase), $"no more “{words}”");

    public IWebElement Find(string css, string? within = null)
    {
        IWebElement? found = null;
        Wait(
            () =>
                (found = Driver.FindElements(By.CssSelector(within is null ? css : $"{within} {css}")).FirstOrDefault(e => e.Displayed))
                    is not null,
            css
        );
        return found!;
    }

    /// <summary>What is on the page though nobody sees it, such as the field behind a drop zone.</summary>
    public IWebElement There(string css)
    {
        Wait(() => Driver.FindElements(By.CssSelector(css)).Count > 0, css);
        return Driver.FindElement(By.CssSelector(css));
    }

    /// <summary>A button or link by its words.</summary>
    public IWebElement Button(string words, string within = "body")
    {
        IWebElement? found = null;
        Wait(
            () =>
                (
                    found = Driver
                        .FindElements(By.CssSelector($"{within} button, {within} a"))
                        .FirstOrDefault(b => b.Displayed && (b.Text.Trim() == words || b.GetAttribute("aria-label") == words))
                )
                    is not null,
            $"a button “{words}”"
        );
        return found!;
    }

    public void Press(string words, string within = "body") =>
        Wait(
            () =>
            {
                Click(Button(words, within));
                return true;
            },
            $"pressing “{words}”"
        );

    /// <summary>Opens a fold by its words, or by those before a comma.</summary>
    public void Unfold(string words) =>
        Wait(
            () =>
            {
                if (
                    Driver
                        .FindElements(By.TagName("summary"))
                        .FirstOrDefault(s => s.Displayed && (s.Text == words || s.Text.StartsWith($"{words},", StringComparison.Ordinal)))
                    is not { } summary
                )
                    return false;
                if (summary.FindElement(By.XPath("..")).GetAttribute("open") is null)
                    Click(summary);
                return summary.FindElement(By.XPath("..")).GetAttribute("open") is not null;
            },
            $"a fold “{words}”"
        );

    /// <summary>In the middle of the window, where nothing lies over it.</summary>
    private void Click(IWebElement element)
    {
        Driver.ExecuteScript("arguments[0].scrollIntoView({ block: 'center', behavior: 'instant' })", element);
        element.Click();
    }

    /// <summary>Presses the button whose words start so.</summary>
    public void PressStarting(string words, string within) =>
        Wait(
            () =>
            {
                Click(
                    Driver.FindElements(By.CssSelector($"{within} button")).First(b => b.Text.StartsWith(words, StringComparison.Ordinal))
                );
                return true;
            },
            $"pressing “{words} …”"
        );

    /// <summary>Types into the field with this label, in place of what stood there.</summary>
    public void Type(string label, string text)
    {
        var field = Field(label);
        field.SendKeys(Keys.Control + "a");
        field.SendKeys(text);
    }

    public IWebElement Field(string label)
    {
        IWebElement? found = null;
        Wait(
            () =>
            {
                var tag = Driver.FindElements(By.TagName("label")).FirstOrDefault(l => l.Displayed && l.Text.Trim() == label);
                found = tag is null
                    ? Driver.FindElements(By.CssSelector($"[aria-label='{label}']")).FirstOrDefault(e => e.Displayed)
                    : Driver.FindElement(By.Id(tag.GetAttribute("for")!));
                return found is not null;
            },
            $"a field “{label}”"
        );
        return found!;
    }

    /// <summary>Opens a blank of the sentence and picks by typing.</summary>
    public void Fill(string blank, string text)
    {
        Wait(
            () =>
            {
                Driver.FindElement(By.CssSelector($"[data-blank='{blank}']")).Click();
                return true;
            },
            $"the blank {blank}"
        );
        var field = Find($"[role=dialog][aria-label='{blank}'] input");
        field.SendKeys(Keys.Control + "a");
        field.SendKeys(text);
        field.SendKeys(Keys.Enter);
        Wait(() => Driver.FindElements(By.CssSelector($"[role=dialog][aria-label='{blank}']")).Count == 0, $"the blank {blank} filled");
    }

    public T Run<T>(string script, params object?[] arguments) => (T)Driver.ExecuteScript(script, arguments)!;

    public string Verdict()
    {
        Wait(() => Driver.FindElements(By.CssSelector(".verdict .vword:not(.none)")).Count > 0, "a verdict");
        return Find(".verdict .vword").Text;
    }

    /// <summary>The standing of each post, such as <c>time: shut</c>.</summary>
    public string Standing(string post) => Find($"[data-post='{post}']").GetAttribute("data-standing")!;

    /// <summary>True when nothing is wider than the window.</summary>
    public bool FitsAcross() => Run<bool>("return document.documentElement.scrollWidth <= window.innerWidth");

    public double Number(string script) => Convert.ToDouble(Driver.ExecuteScript(script), CultureInfo.InvariantCulture);

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        Directory.Delete(_profile, recursive: true);
    }
}
