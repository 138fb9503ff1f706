using Shouldly;
using Xunit;

namespace VelvetGate.Browser.Tests;

/// <summary>From a drawing to copies on a sheet, watched, asked for, kept as a job and asked for again.</summary>
[Collection(Houses.Sheets)]
public sealed class JobTests(LiveServer server) : IDisposable
{
    private readonly string _folder = Directory.CreateTempSubdirectory("vg-files-").FullName;

    public void Dispose() => Directory.Delete(_folder, recursive: true);

    [Fact]
    public void ADrawing_IsWatched_LaidOnASheet_AskedForAndKept()
    {
        var path = Path.Combine(_folder, "ticket tag.svg");
        File.WriteAllText(
            path,
            "<svg xmlns='http://www.w3.org/2000/svg' width='70mm' height='50mm' viewBox='0 0 70 50'><g fill='none' stroke='#9c2f4f' "
                + "stroke-width='0.1'><circle cx='15' cy='25' r='3'/><rect x='5' y='5' width='60' height='40' rx='4'/></g></svg>"
        );
        using var member = new Browser(server.Address).As("member", "/drawings");
        member.There("input[type=file]").SendKeys(path);
        member.WaitFor("Watch it run", "On a sheet");
        member.Press("Watch it run");
        member.There("input[type=range]");
        var whole = member.Number("return Number(document.querySelector('input[type=range]').max)");
        whole.ShouldBeInRange(3, 60);
        // To the end: all of it is drawn, and the head stands on the outline.
        member.Run<object?>(
            "const r = document.querySelector('input[type=range]');"
                + "Object.getOwnPropertyDescriptor(HTMLInputElement.prototype, 'value').set.call(r, r.max);"
                + "r.dispatchEvent(new Event('input', { bubbles: true })); return null"
        );
        member.Wait(() => member.Find(".scrub output").Text.Contains(", cut", StringComparison.Ordinal), "the end of the run");
        LookTests.Look(member, "a run that is watched");
        member.Press("Done", ".scrub");

        member.Type("Copies", "0");
        member.WaitFor("Give 1 to 500 copies.");
        member.Type("Copies", "12");
        member.WaitFor("12 copies on");
        LookTests.Look(member, "copies on a sheet");
        member.Press("Make one drawing of it");
        member.WaitFor("ticket tag, 12 on");
        member.Press("Take it to the gate");
        member.WaitFor("May Ines Calloway", "ticket tag, 12 on", "The booking");
        member.Press("Keep this as a job");
        member.Type("Name of the job", " ");
        member.Press("Keep it");
        member.WaitFor("Give the job a name");
        member.Type("Name of the job", "Ticket tags");
        member.Press("Keep it");
        member.WaitFor("Kept.");
        member.Open("/bookings");
        member.Press("Jobs", "main");
        member.WaitFor("Ticket tags", "No run of it was logged on a booking yet.");
        LookTests.Look(member, "jobs");
        member.Press("Ask again");
        member.WaitFor("May Ines Calloway", "ticket tag, 12 on");
        member.Open("/bookings/jobs");
        member.WaitFor("Ticket tags");
        member.PressStarting("Take away", ".jobs");
        member.WaitFor("You keep no job");
    }

    [Fact]
    public void RunTimes_SayWhatIsMissing_ForEveryOperation_OnAPhoneToo()
    {
        using var phone = new Browser(server.Address, phone: true).As("steward", "/machines/heron/run-times");
        phone.WaitFor("Run times on Heron", "No run of it was logged on a booking with a drawing.");
        phone.FitsAcross().ShouldBeTrue();
        LookTests.Look(phone, "run times on a phone");
    }
}
