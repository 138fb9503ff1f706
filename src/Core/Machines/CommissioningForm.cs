using System.Text.Json;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;

namespace VelvetGate.Core.Machines;

/// <summary>The form of a commissioning sheet. Anything but its day and who answers for it may be left open: it is then missing.</summary>
public static class CommissioningForm
{
    private const string Who = "When, and who";
    private const string Interlocks = "Interlocks";
    private const string Controller = "Our controller, where there is one";
    private const string Beam = "Window and stand";
    private const string Air = "Air";

    public static IReadOnlyList<FormField> Fields { get; } =
    [
        FormField.Day("on", Who, "Day", "Of setting up, or of going through all of it anew.") with
        {
            Optional = false,
        },
        FormField.Text("by", Who, "Who answers for this sheet"),
        FormField.Text("wiring", Who, "Earth and wiring looked at", "By whom, with which paper.", optional: true),
        FormField.Day("interlocksOn", Interlocks, "Interlocks tried on"),
        FormField.Flag(
            "makersGone",
            Interlocks,
            "Maker’s own interlock: beam gone at once, each time",
            "Service key turned, so that our lid contact and relay are out of it. Lid open a finger, a hand, half. Low power, scrap on the "
                + "bed, eyewear on."
        ),
        FormField.Flag("relayGone", Interlocks, "Our relay: beam gone at once, each time", "Key back, the same three heights."),
        FormField.Text(
            "wiredBy",
            Controller,
            "Wired by",
            "In series into the maker’s enable input, never in place of an interlock.",
            optional: true
        ),
        FormField.Text("consent", Controller, "With whose consent", "Maker, seller or whoever answers for the machine.", optional: true),
        FormField.Text("classAnew", Controller, "Class assessed anew", "By whom after the wiring, and what it came to.", optional: true),
        FormField.Whole(
            "windowNm",
            Beam,
            "Window stated for",
            "nm",
            180,
            12000,
            "From its label or paper: a window for another wavelength stops nothing.",
            optional: true
        ),
        FormField.Number("windowOd", Beam, "Optical density stated there", "OD", 0, 15, optional: true),
        FormField.Flag("level", Beam, "Stands level, on a stand that carries it"),
        FormField.Text(
            "airflowHow",
            Air,
            "How the airflow was measured",
            "With what, by whom, at which fan level. The figure itself stands on the machine’s form.",
            optional: true
        ),
        FormField.Number(
            "inwardMS",
            Air,
            "Inward speed at the openings",
            "m/s",
            0,
            20,
            "From the extraction engineer, who also says what is enough.",
            optional: true
        ),
        FormField.Text("route", Air, "Route of the duct", "To where it comes out, away from windows and intakes.", optional: true),
        new(
            "stages",
            Air,
            "Stages of the extraction",
            FieldKind.Rows,
            Optional: true,
            Hint: "In the order of the air: particles, carbon, fan. Each has its own life.",
            Parts: [FormField.Text("stage", "", "Stage"), FormField.Text("lasts", "", "Lasts, as its maker says")]
        ),
    ];

    private static readonly string[] Texts = ["wiring", "wiredBy", "consent", "classAnew", "airflowHow", "route"];

    /// <param name="today">A sheet of a day to come is none.</param>
    public static SheetReading<CommissioningSheet> Read(JsonElement input, LocalDate today)
    {
        var (values, errors) = FormReader.Read(Fields, input, LengthUnit.Mm);
        if (errors.Count > 0)
            return new(null, errors);
        foreach (var text in Texts)
            values[text] ??= "";
        var sheet = GateJson.Read<CommissioningSheet>(values.ToJsonString());
        return SheetChecks.Checked(sheet, Wrong(sheet, today));
    }

    private static IEnumerable<Refusal> Wrong(CommissioningSheet sheet, LocalDate today)
    {
        if (sheet.On > today)
            yield return SheetChecks.Bad("on", "That day is still to come. Write down what was done.");
        if (sheet.InterlocksOn > today)
            yield return SheetChecks.Bad("interlocksOn", "That day is still to come. Write down what was tried.");
        if ((sheet.MakersGone || sheet.RelayGone) && sheet.InterlocksOn is null)
            yield return SheetChecks.Bad("interlocksOn", "Say on which day the interlocks were tried.");
        if (sheet.InterlocksOn is not null && !sheet.MakersGone)
            yield return SheetChecks.Bad(
                "makersGone",
                "Where the beam was not gone each time, stop the machine and report the fault; leave the day empty here."
            );
        if (sheet.WindowOd is not null && sheet.WindowNm is null)
            yield return SheetChecks.Bad("windowNm", "Say for which wavelength the window is stated.");
    }
}
