using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>A setting found with its reasons and one added; a calculator worked, with what is wrong said at its field.</summary>
[Collection(Houses.Sheets)]
public sealed class SettingsTests(LiveServer server)
{
    [Fact]
    public void ASetting_IsFoundWithItsReasons_AndOneIsAdded()
    {
        using var member = new Browser(server.Address).As("member", "/materials");
        member.There("main a[href='/materials/settings']").Click();
        member.WaitFor("Say what you will run");
        LookTests.Look(member, "settings, nothing asked");
        member.Open("/materials/settings?operation=cut&material=birch-ply-laser&machine=heron&thickness=2.9");
        member.WaitFor("Set this", "within 10 % of 2.9 mm", "tested: clean");
        LookTests.Look(member, "settings");
        member.Open("/materials/settings?operation=cut&material=cork&machine=wren&thickness=2%20mm");
        member.WaitFor("A first guess", "Nobody has tried it");
        member.Unfold("Add a setting for this");
        member.Type("Power, %", "55");
        member.Type("Speed, such as 20 mm/s", "fast");
        member.Press("Add it to the library");
        member.WaitFor("“fast” is not a speed");
        member.Type("Speed, such as 20 mm/s", "40 mm/s");
        member.Press("Add it to the library");
        member.WaitFor("Added.", "Set this", "not tested here yet");
    }

    /// <summary>From a piece that is made to the setting at the gate, which shuts on half the thickness.</summary>
    [Fact]
    public void ATestPiece_IsMadeAndTold_AndItsSettingIsHeldAgainstTheSheetAtTheGate()
    {
        using var member = new Browser(server.Address).As("member", "/materials/test-pieces?material=cork&machine=heron");
        member.WaitFor("What they are for");
        member.Press("Make it");
        member.WaitFor("Type a length");
        member.Type("Thickness measured, the thinnest place", "4 mm");
        member.Press("Make it");
        member.WaitFor("How did it come out?", "128 x 40 mm");
        LookTests.Look(member, "a test piece");
        member.Press("Tell the result");
        member.WaitFor("At least 4 cells are needed");
        for (var n = 1; n <= 10; n++)
        for (var press = n < 5 ? 3 : 1; press > 0; press--)
            foreach (var row in (string[])["A", "B"])
                member.There($"[data-cell='{row}{n}']").Click();
        member.Press("Tell the result");
        member.WaitFor("What it says", "It stands in the library now, tested.");
        LookTests.Look(member, "a test piece that was told");
        member.Press("Ask the gate with this setting");
        member.WaitFor("May Ines Calloway", "to cut");
        member.Fill("Thickness", "2 mm");
        member.WaitFor("times the energy", "Choose another setting");
    }

    [Fact]
    public void ACalculator_AnswersAsItIsTyped_OnAPhoneToo()
    {
        using var phone = new Browser(server.Address, phone: true).As("member", "/materials/calculators/kerf");
        phone.WaitFor("the answer stands here");
        phone.Press("Fill in an example");
        phone.WaitFor("0.22 mm", "Offset for each edge");
        phone.FitsAcross().ShouldBeTrue();
        LookTests.Look(phone, "a calculator on a phone");
        phone.Type("All side by side, measured", "200.5");
        phone.WaitFor("left no kerf");
    }
}
