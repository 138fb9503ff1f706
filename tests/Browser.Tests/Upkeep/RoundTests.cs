using OpenQA.Selenium.Support.UI;
using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests.Upkeep;

/// <summary>The round on a phone, the stock, a lock, and the inspector’s list.</summary>
[Collection(Houses.House)]
public sealed class RoundTests(LiveServer server)
{
    /// <summary>A trainer makes the round: one thing is wrong, a slip is asked again; put right, the round is whole.</summary>
    [Fact]
    public void Trainer_MakesTheRound_WithThePhone()
    {
        using var trainer = new Browser(server.Address, phone: true).As("trainer", "/upkeep/round#kit-alarm");
        trainer.WaitFor("smoke alarm", "fire blanket", "CO2 extinguisher by the door", "blue-beam glasses, 4 pairs");
        trainer.Find("[data-item='kit-blanket'] button.btn-outline-primary").Click();
        trainer.Press("It is not in order");
        trainer.WaitFor("Say that it is in order, or choose what is wrong with it.");
        trainer.Field("damaged").Click();
        trainer.Type("In a few words (may stay empty)", "A burnt corner.");
        trainer.Press("It is not in order");
        trainer.WaitFor("Found damaged: nothing runs until it is right.", "A burnt corner.");
        trainer.Find("[data-item='eyewear-blue'] button.btn-outline-primary").Click();
        trainer.Type("Pairs scratched, bleached or cracked", "7");
        trainer.Press("Take them away");
        trainer.WaitFor("Count the pairs that are damaged: 0 to 4.");
        trainer.Type("Pairs scratched, bleached or cracked", "1");
        trainer.Press("Take them away");
        trainer.WaitFor("blue-beam glasses, 3 pairs");
        foreach (var item in new[] { "kit-co2", "kit-alarm", "kit-blanket" })
        {
            trainer.Find($"[data-item='{item}'] button.btn-primary").Click();
            trainer.Wait(
                () => trainer.Find($"[data-item='{item}']").Text.Contains("Looked at Tue 24 Nov", StringComparison.Ordinal),
                $"{item} was looked at"
            );
        }
        trainer.WaitFor("The round is whole: its task is done.");
    }

    /// <summary>What a task uses up goes from the shelf; too much is refused with what was typed kept.</summary>
    [Fact]
    public void Trainer_UsesUpWhatIsOnTheShelf()
    {
        using var trainer = new Browser(server.Address).As("trainer", "/upkeep");
        trainer.WaitFor("Coolant: fresh distilled water");
        trainer.Find("[data-task='wren-coolant'] button").Click();
        const string water =
            "Used up: Distilled water, l (20 there). The used one: " + "old coolant with antifreeze: chemical waste, never the drain";
        trainer.Type(water, "30");
        trainer.Type("What was found (may stay empty)", "Clear.");
        trainer.Press("It is done");
        trainer.WaitFor("Only 20 are there by the record.");
        trainer.Field("What was found (may stay empty)").GetAttribute("value").ShouldBe("Clear.");
        trainer.Type(water, "12");
        trainer.Press("It is done");
        trainer.WaitGone("What was found (may stay empty)");
        trainer.Go("/upkeep/stock");
        trainer.WaitFor("Distilled water, l: 8", "To be ordered");
    }

    /// <summary>A lock with its key holder keeps a machine out; on screen it is said who has the key.</summary>
    [Fact]
    public void Repairer_LocksAMachine_AndTakesTheLockOff()
    {
        using var repairer = new Browser(server.Address).As("trainer", "/machines");
        repairer.Press("Stop Wren");
        repairer.Type("What is wrong", "Smoke from the filter.");
        repairer.Press("Stop Wren now");
        repairer.WaitFor("“Do not use” tag (PDF)");
        repairer.Find("[data-machine='wren'] button.quietlink").Click();
        repairer.Type("Which lock hangs where", "padlock 2 on the wall switch");
        repairer.Press("It hangs, and I have its key");
        repairer.WaitFor("Locked: padlock 2 on the wall switch.", "Key with you");
        repairer.Press("Return Wren to service");
        repairer.Type("What was done and checked", "A rag in the filter.");
        repairer.Field("Nothing: looked at, cleaned, found in order").Click();
        repairer.Press("Return Wren now");
        repairer.WaitFor("A lock hangs on it: padlock 2 on the wall switch.");
        repairer.Press("It is off");
        repairer.WaitGone("Locked: padlock 2");
        repairer.Press("Return Wren now");
        repairer.WaitFor("Stop Wren");
    }

    [Fact]
    public void Keeper_EntersAPaper_OnTheInspectorsList()
    {
        using var keeper = new Browser(server.Address).As("keeper", "/house/papers");
        keeper.WaitFor("Thorough examination of the extraction, Heron", "Laser safety officer appointed");
        keeper.Find("details[data-enter] > summary").Click();
        new SelectElement(keeper.Field("Paper")).SelectByText("Duct cleaned");
        keeper.Press("Enter it");
        keeper.WaitFor("Choose which machine it is about.", "Say who answers for it");
        new SelectElement(keeper.Field("Of which machine")).SelectByText("Wren");
        keeper.Type("Who cleaned it", "the duct firm");
        keeper.Press("Enter it");
        keeper.WaitFor("Duct cleaned, Wren", "Entered.");
    }
}
