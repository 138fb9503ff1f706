using OtpNet;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>A code from a phone: set up, asked at the door, a spare one instead, and taken off.</summary>
[Collection(Houses.House)]
public sealed class PhoneCodeTests(LiveServer server)
{
    [Fact]
    public void Code_IsSetUp_AskedAtTheDoor_AndTakenOff()
    {
        using var browser = new Browser(server.Address).As("newcomer", "/me");
        browser.WaitFor("A code from your phone", "not set up");
        browser.Press("Set it up");
        browser.WaitFor("Then type the six digits it shows");
        LookTests.Look(browser, "a code from the phone as it is set up");
        browser.Type("Six digits", "12");
        browser.Press("Confirm it");
        browser.WaitFor("That is not the code the phone shows now");
        var secret = browser.Find(".codes").Text.Replace(" ", "", StringComparison.Ordinal);
        browser.Type("Six digits", new Totp(Base32Encoding.ToBytes(secret)).ComputeTotp());
        browser.Press("Confirm it");
        browser.WaitFor("It is set up", "Write these codes on paper");
        var spare = browser.Driver.FindElements(Css.By(".sparecodes li")).Select(e => e.Text).ToList();
        spare.Count.ShouldBe(8);
        LookTests.Look(browser, "spare codes");

        browser.Press("Sign out");
        browser.WaitFor("Sign in");
        browser.Type("Name", "newcomer");
        browser.Type("Password", "ropewalk");
        browser.Press("Sign in", "form");
        browser.WaitFor("Type the six digits that your phone shows now");
        LookTests.Look(browser, "the door that asks a code");
        browser.Type("Code from your phone", "000000");
        browser.Press("Sign in", "form");
        browser.WaitFor("That code is not right");
        browser.Type("Code from your phone", spare[0]);
        browser.Press("Sign in", "form");
        browser.WaitFor("Take it off", "7 spare codes are left");
        browser.Press("Take it off");
        browser.WaitFor("not set up");
    }
}
