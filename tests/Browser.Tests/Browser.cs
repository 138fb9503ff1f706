using System.Globalization;
using System.Net.Http.Json;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Support.UI;

namespace VelvetGate.Browser.Tests;

/// <summary>One window of a headless Chromium, used as a person would: by role, label and words.</summary>
public sealed class Browser : IDisposable
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(25);
    private readonly string _address;
    private readonly Chromium _chromium;

    /// <param name="untouched">In a browser that was never used before.</param>
    public Browser(string address, bool phone = false, bool untouched = false)
    {
        _address = address;
        _chromium = Chromium.Take(phone, untouched);
    }

    public ChromeDriver Driver => _chromium.Driver;

    /// <summary>What the page says to somebody who looks at it.</summary>
    public string Text => Run<string>("return document.body?.innerText ?? ''");

    public void Open(string path) =>
        Driver.Navigate().GoToUrl(path.StartsWith("about:", StringComparison.Ordinal) ? path : _address + path);

    /// <summary>Goes to another page of the application without fetching it anew, as a link there does.</summary>
    public void Go(string path)
    {
        if (!Is("nav.rail"))
            Open(path);
        else
            Run<object?>("history.pushState({}, '', arguments[0]); dispatchEvent(new PopStateEvent('popstate'))", path);
    }

    /// <summary>Signs in, and opens a page. The form at the door has tests of its own.</summary>
    public Browser As(string name, string path = "/watch")
    {
        using var cookies = new HttpClientHandler();
        using var http = new HttpClient(cookies) { BaseAddress = new Uri(_address) };
        http.PostAsJsonAsync("/api/sign-in", new { name, password = "ropewalk" }).GetAwaiter().GetResult().EnsureSuccessStatusCode();
        foreach (System.Net.Cookie cookie in cookies.CookieContainer.GetCookies(http.BaseAddress))
            Driver.ExecuteCdpCommand(
                "Network.setCookie",
                new()
                {
                    ["name"] = cookie.Name,
                    ["value"] = cookie.Value,
                    ["url"] = _address,
                    ["httpOnly"] = cookie.HttpOnly,
                    ["sameSite"] = "Strict",
                }
            );
        Open(path);
        Wait(() => Is("nav.rail"), $"{name} is signed in");
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

    public IWebElement Find(string css, string? within = null) =>
        Seek("return all(arguments[0]).find(shown)", css, Css.Of(within is null ? css : $"{within} {css}"));

    /// <summary>True when something like this is on the page, seen or not.</summary>
    public bool Is(string css) => Run<bool>("return document.querySelector(arguments[0]) !== null", Css.Of(css));

    /// <summary>What is on the page though nobody sees it, such as the field behind a drop zone.</summary>
    public IWebElement There(string css) => Seek("return all(arguments[0])[0]", css, Css.Of(css));

    /// <summary>A button or link by its words.</summary>
    public IWebElement Button(string words, string within = "body") =>
        Seek(
            "return all(`:is(${arguments[1]}) :is(button, a)`)"
                + ".find((b) => shown(b) && (said(b) === arguments[0] || b.getAttribute('aria-label') === arguments[0]))",
            $"a button “{words}”",
            words,
            Css.Of(within)
        );

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
                var summary = Seek(
                    "return all('summary').find((s) => shown(s) && (said(s) === arguments[0] || said(s).startsWith(arguments[0] + ',')))",
                    $"a fold “{words}”",
                    words
                );
                if (!Opened(summary))
                    Click(summary);
                return Opened(summary);
            },
            $"a fold “{words}”"
        );

    private bool Opened(IWebElement summary) => Run<bool>("return arguments[0].parentElement.open", summary);

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
                    Seek(
                        "return all(`${arguments[1]} button`).find((b) => shown(b) && said(b).startsWith(arguments[0]))",
                        $"a button “{words} …”",
                        words,
                        Css.Of(within)
                    )
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

    public IWebElement Field(string label) =>
        Seek(
            """
            const label = all('label').find((l) => shown(l) && said(l) === arguments[0])
            return label ? label.control : all('[aria-label]').find((e) => shown(e) && e.getAttribute('aria-label') === arguments[0])
            """,
            $"a field “{label}”",
            label
        );

    /// <summary>Opens a blank of the sentence and picks by typing.</summary>
    public void Fill(string blank, string text)
    {
        Wait(
            () =>
            {
                Driver.FindElement(Css.By($"[data-blank='{blank}']")).Click();
                return true;
            },
            $"the blank {blank}"
        );
        var field = Find($"[role=dialog][aria-label='{blank}'] input");
        field.SendKeys(Keys.Control + "a");
        field.SendKeys(text);
        field.SendKeys(Keys.Enter);
        Wait(() => !Is($"[role=dialog][aria-label='{blank}']"), $"the blank {blank} filled");
    }

    /// <summary>Waits until a script finds an element; asked in one go, however many there are to look through.</summary>
    private IWebElement Seek(string script, string what, params object?[] arguments)
    {
        IWebElement? found = null;
        Wait(() => (found = (IWebElement?)Driver.ExecuteScript(Eyes + script, arguments)) is not null, what);
        return found!;
    }

    private const string Eyes = """
        const all = (css) => [...document.querySelectorAll(css)]
        const shown = (e) => e.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && e.getClientRects().length > 0
        const said = (e) => e.innerText.replace(/\s+/g, ' ').trim()

        """;

    public T Run<T>(string script, params object?[] arguments) => (T)Driver.ExecuteScript(Css.InScript(script), arguments)!;

    public string Verdict()
    {
        Wait(() => Is(".verdict .vword:not(.none)"), "a verdict");
        return Find(".verdict .vword").Text;
    }

    /// <summary>The standing of each post, such as <c>time: shut</c>.</summary>
    public string Standing(string post) => Find($"[data-post='{post}']").GetAttribute("data-standing")!;

    /// <summary>True when nothing is wider than the window.</summary>
    public bool FitsAcross() => Run<bool>("return document.documentElement.scrollWidth <= window.innerWidth");

    public double Number(string script) => Convert.ToDouble(Driver.ExecuteScript(Css.InScript(script)), CultureInfo.InvariantCulture);

    public void Dispose() => _chromium.GiveBack(_address);
}
