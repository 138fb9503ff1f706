using System.Collections.Concurrent;
using OpenQA.Selenium;
using OpenQA.Selenium.Chrome;
using OpenQA.Selenium.Chromium;
using Xunit;

[assembly: AssemblyFixture(typeof(VelvetGate.Browser.Tests.ChromiumPool))]

namespace VelvetGate.Browser.Tests;

/// <summary>A running headless Chromium. Starting one takes seconds, so they are used again, emptied of everything in between.</summary>
internal sealed class Chromium : IDisposable
{
    private static readonly ConcurrentBag<Chromium> Free = [];
    private readonly string _profile = Directory.CreateTempSubdirectory("vg-browser-").FullName;
    private readonly bool _phone;

    private Chromium(bool phone)
    {
        _phone = phone;
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

    /// <param name="untouched">One that nobody used before: what it fetches is all that a first visit fetches.</param>
    public static Chromium Take(bool phone, bool untouched) =>
        !phone && !untouched && Free.TryTake(out var free) ? free : new Chromium(phone);

    /// <summary>Gives it back empty: no cookie, nothing kept of this address, one new window.</summary>
    public void GiveBack(string origin)
    {
        if (_phone)
        {
            Dispose();
            return;
        }
        try
        {
            var used = Driver.WindowHandles;
            Driver.SwitchTo().NewWindow(WindowType.Tab);
            var fresh = Driver.CurrentWindowHandle;
            foreach (var window in used)
                Driver.SwitchTo().Window(window).Close();
            Driver.SwitchTo().Window(fresh);
            Driver.ExecuteCdpCommand("Network.clearBrowserCookies", []);
            Driver.ExecuteCdpCommand("Storage.clearDataForOrigin", new() { ["origin"] = origin, ["storageTypes"] = "all" });
            Driver.Manage().Logs.GetLog(LogType.Browser);
            Free.Add(this);
        }
        catch (WebDriverException)
        {
            Dispose();
        }
    }

    public void Dispose()
    {
        Driver.Quit();
        Driver.Dispose();
        Directory.Delete(_profile, recursive: true);
    }

    internal static void EndAll()
    {
        while (Free.TryTake(out var free))
            free.Dispose();
    }
}

/// <summary>Ends every Chromium when the last test has.</summary>
public sealed class ChromiumPool : IDisposable
{
    public void Dispose() => Chromium.EndAll();
}
