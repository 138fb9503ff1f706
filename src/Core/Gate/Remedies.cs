namespace VelvetGate.Core.Gating;

/// <summary>Who carries a remedy out.</summary>
public enum RemedyBy
{
    /// <summary>Whoever asks, on the question itself or on a page of their own.</summary>
    Asker,
    Trainer,
    Steward,
    Keeper,
}

/// <summary>One thing that opens the gate again.</summary>
/// <param name="Name">Stable: the API gives it.</param>
/// <param name="Means">One sentence.</param>
/// <param name="Page">Where it is done or seen, with <c>{person}</c> and <c>{drawing}</c> of the question; null when it is done on the
/// question itself or away from a screen.</param>
/// <param name="PageWords">What the way there is called.</param>
public sealed record RemedyAction(string Name, RemedyBy By, string Means, string? Page = null, string? PageWords = null)
{
    /// <param name="text">What opens it, as it is for this question.</param>
    public Remedy Says(string text) => new(Name, text);
}

/// <summary>Everything that may open the gate, each once.</summary>
public static class Remedies
{
    public static readonly RemedyAction TimeOther = new("time.other", RemedyBy.Asker, "Choose another time.");
    public static readonly RemedyAction TimeLonger = new("time.longer", RemedyBy.Asker, "Book as long as the job needs.");
    public static readonly RemedyAction TimeShorter = new("time.shorter", RemedyBy.Asker, "Split the job.");
    public static readonly RemedyAction BookingCancel = new(
        "booking.cancel",
        RemedyBy.Asker,
        "Cancel a booking, or wait until one is done.",
        "/bookings",
        "See the bookings"
    );
    public static readonly RemedyAction AskRun = new("ask.run", RemedyBy.Asker, "Say how long it runs, or add its drawing.");
    public static readonly RemedyAction AskOperations = new(
        "ask.operations",
        RemedyBy.Asker,
        "Ask for every operation that the drawing holds."
    );
    public static readonly RemedyAction MachineOther = new("machine.other", RemedyBy.Asker, "Choose another machine.");
    public static readonly RemedyAction BenchOther = new("bench.other", RemedyBy.Asker, "Take the finishing bench at another time.");
    public static readonly RemedyAction FixtureBack = new(
        "fixture.back",
        RemedyBy.Steward,
        "Write down that the fixture is back and in order.",
        "/bookings/fixtures",
        "See the fixtures"
    );
    public static readonly RemedyAction MachineReturn = new(
        "machine.return",
        RemedyBy.Steward,
        "Return the machine to service.",
        "/machines",
        "See the machine"
    );
    public static readonly RemedyAction IncidentEnd = new(
        "incident.end",
        RemedyBy.Steward,
        "Do what the hold asks for, and end it.",
        "/incidents",
        "See the incidents"
    );
    public static readonly RemedyAction IncidentLook = new(
        "incident.look",
        RemedyBy.Steward,
        "Look at the machine, and write it down.",
        "/incidents",
        "See the incidents"
    );
    public static readonly RemedyAction MachineClose = new(
        "machine.close",
        RemedyBy.Keeper,
        "Close the machine, verify the interlock and write its class down.",
        "/house/machines",
        "See the machine’s form"
    );
    public static readonly RemedyAction MachineMeasure = new(
        "machine.measure",
        RemedyBy.Keeper,
        "Write down the measured airflow.",
        "/house/machines",
        "See the machine’s form"
    );
    public static readonly RemedyAction MachineDescribe = new(
        "machine.describe",
        RemedyBy.Keeper,
        "Write down how the machine is enclosed.",
        "/house/machines",
        "See the machine’s form"
    );
    public static readonly RemedyAction MachineCommission = new(
        "machine.commission",
        RemedyBy.Keeper,
        "Go through the commissioning sheet.",
        "/house/commissioning",
        "See the commissioning sheets"
    );
    public static readonly RemedyAction InterlocksTry = new(
        "interlocks.try",
        RemedyBy.Trainer,
        "Try the interlocks, and write it down.",
        "/upkeep",
        "See what is due"
    );
    public static readonly RemedyAction BreakCheck = new(
        "break.check",
        RemedyBy.Trainer,
        "Look at the machine after a break, and write it down.",
        "/upkeep",
        "See the machine"
    );
    public static readonly RemedyAction MachineRead = new("machine.read", RemedyBy.Asker, "Read the gauges at the machine.");
    public static readonly RemedyAction UpkeepLog = new(
        "upkeep.log",
        RemedyBy.Steward,
        "Do the upkeep and write it down.",
        "/upkeep",
        "See what is due"
    );
    public static readonly RemedyAction ReadingLog = new(
        "reading.log",
        RemedyBy.Asker,
        "Put it right, read it again, and write the new reading down.",
        "/upkeep",
        "Write a reading down"
    );
    public static readonly RemedyAction FaultClose = new(
        "fault.close",
        RemedyBy.Steward,
        "Have it looked at, and write down what was found.",
        "/upkeep",
        "See the faults"
    );
    public static readonly RemedyAction DrawingCheck = new(
        "drawing.check",
        RemedyBy.Asker,
        "Put the drawing in.",
        "/drawings",
        "Go to Drawings"
    );
    public static readonly RemedyAction DrawingMend = new(
        "drawing.mend",
        RemedyBy.Asker,
        "Mend the drawing.",
        "/drawings/{drawing}",
        "See the drawing"
    );
    public static readonly RemedyAction DrawingWrap = new(
        "drawing.wrap",
        RemedyBy.Asker,
        "Hold the page against the rotary calculator.",
        "/materials/calculators/rotary",
        "Go to the calculator"
    );
    public static readonly RemedyAction DrawingLay = new(
        "drawing.lay",
        RemedyBy.Asker,
        "Lay the drawing on the sheet, and make one drawing of it.",
        "/drawings/{drawing}",
        "See the drawing"
    );
    public static readonly RemedyAction RoundOther = new("round.other", RemedyBy.Asker, "Take another thing.");
    public static readonly RemedyAction DrawingShow = new("drawing.show", RemedyBy.Steward, "Let the drawing run as it is, once.");
    public static readonly RemedyAction SheetOther = new("sheet.other", RemedyBy.Asker, "Take another sheet.");
    public static readonly RemedyAction SheetTag = new("sheet.tag", RemedyBy.Asker, "Look at the tag and measure again.");
    public static readonly RemedyAction SheetThinner = new("sheet.thinner", RemedyBy.Asker, "Take a thinner sheet.");
    public static readonly RemedyAction SheetClear = new("sheet.clear", RemedyBy.Steward, "Clear the sheet on its evidence.");
    public static readonly RemedyAction SettingsOther = new("settings.other", RemedyBy.Asker, "Choose another setting.");
    public static readonly RemedyAction SettingsTest = new(
        "settings.test",
        RemedyBy.Asker,
        "Cut a test piece first.",
        "/materials/test-pieces",
        "Make a test piece"
    );
    public static readonly RemedyAction MaterialOther = new("material.other", RemedyBy.Asker, "Choose another material.");
    public static readonly RemedyAction MaterialRequest = new(
        "material.request",
        RemedyBy.Asker,
        "Ask for a ruling.",
        "/materials/requests",
        "Ask for a ruling"
    );
    public static readonly RemedyAction TrainingSignOff = new(
        "training.signOff",
        RemedyBy.Trainer,
        "Sign the person off.",
        "/training/ladder?person={person}",
        "See the way there"
    );
    public static readonly RemedyAction TrainingRead = new(
        "training.read",
        RemedyBy.Asker,
        "Read, answer or show what was changed.",
        "/training/ladder?person={person}",
        "See what to read"
    );
    public static readonly RemedyAction TrainingSupervisor = new(
        "training.supervisor",
        RemedyBy.Asker,
        "Name a certified adult as supervisor."
    );
    public static readonly RemedyAction TrainingConfirm = new(
        "training.confirm",
        RemedyBy.Steward,
        "Look at the evidence and confirm it.",
        "/training?person={person}",
        "See the certificate"
    );
    public static readonly RemedyAction TrainingReinstate = new(
        "training.reinstate",
        RemedyBy.Steward,
        "Reinstate the certificate.",
        "/training?person={person}",
        "See the certificate"
    );
    public static readonly RemedyAction TrainingReview = new(
        "training.review",
        RemedyBy.Steward,
        "Look at the certificate and decide.",
        "/training?person={person}",
        "See the certificate"
    );
    public static readonly RemedyAction PersonOpen = new("person.open", RemedyBy.Keeper, "Open or extend the account.");
    public static readonly RemedyAction PersonSign = new(
        "person.sign",
        RemedyBy.Asker,
        "Read and sign the house agreement.",
        "/me",
        "See the agreement"
    );
    public static readonly RemedyAction PersonRelease = new(
        "person.release",
        RemedyBy.Steward,
        "End the pause.",
        "/training?person={person}",
        "See the pause"
    );
    public static readonly RemedyAction PersonConsent = new("person.consent", RemedyBy.Keeper, "Write down the guardian’s dated consent.");
    public static readonly RemedyAction HouseLook = new("house.look", RemedyBy.Steward, "Look again; tell the keeper if it stays.");
    public static readonly RemedyAction HouseKit = new(
        "house.kit",
        RemedyBy.Keeper,
        "Write down the fire kit.",
        "/house/room",
        "See the fire kit"
    );
    public static readonly RemedyAction KitLook = new(
        "kit.look",
        RemedyBy.Trainer,
        "Put it right, and look at it again.",
        "/upkeep/round",
        "See the round"
    );
    public static readonly RemedyAction HouseRota = new(
        "house.rota",
        RemedyBy.Steward,
        "Write the rota that far.",
        "/house/calendar",
        "See the calendar"
    );
    public static readonly RemedyAction HouseRoom = new(
        "house.room",
        RemedyBy.Keeper,
        "Hang an alarm, and write it down.",
        "/house/room",
        "See the room"
    );
    public static readonly RemedyAction HouseEyewear = new(
        "house.eyewear",
        RemedyBy.Keeper,
        "Get eyewear for this beam.",
        "/house/room",
        "See the eyewear"
    );

    private static readonly Dictionary<string, RemedyAction> ByName = typeof(Remedies)
        .GetFields(System.Reflection.BindingFlags.Public | System.Reflection.BindingFlags.Static)
        .Where(f => f.FieldType == typeof(RemedyAction))
        .Select(f => (RemedyAction)f.GetValue(null)!)
        .ToDictionary(a => a.Name);

    public static IReadOnlyCollection<RemedyAction> All => ByName.Values;

    /// <returns>Null for one of an earlier version, as stored decisions keep it.</returns>
    public static RemedyAction? Find(string name) => ByName.GetValueOrDefault(name);
}
