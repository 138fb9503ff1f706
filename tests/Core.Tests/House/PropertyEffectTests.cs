using System.Text.Json.Nodes;
using NodaTime;
using Shouldly;
using VelvetGate.Core.Drawings;
using VelvetGate.Core.Drawings.Pictures;
using VelvetGate.Core.Gating;
using VelvetGate.Core.House;
using VelvetGate.Core.House.Forms;
using VelvetGate.Core.Machines;
using VelvetGate.Core.Materials;
using VelvetGate.Core.People;
using VelvetGate.Core.Settings;
using VelvetGate.Core.Settings.Motion;
using VelvetGate.Core.Station;
using VelvetGate.Core.Tests.Gating;
using VelvetGate.Core.Tests.Settings;
using VelvetGate.Core.Tests.Stations;
using VelvetGate.Core.Training;
using VelvetGate.Core.Upkeep;
using Xunit;

namespace VelvetGate.Core.Tests.House;

/// <summary>
/// No field on the three forms of the house is dead: for each there is a scenario in which two values of it lead to different verdicts,
/// lengths, waits, refusals or cards.
/// </summary>
public class PropertyEffectTests
{
    private static readonly RoomSpec Workshop = new(
        Name: "Ropewalk",
        Address: "",
        VolumeM3: null,
        Discharge: "",
        FreshAir: "windows",
        CoAlarm: true,
        ExtinguisherWhere: "by the door",
        Extinguisher: FireAgent.Co2,
        WaterAllowed: false,
        AlarmPoint: "corridor",
        WayOut: "left",
        MeetingPoint: "gate",
        EmergencyCall: "112",
        WhoToTell: "the keeper",
        FirstAid: "shelf",
        KeyTimes: "",
        Computers: "",
        CleaningKit: "",
        Toolbox: "",
        Stock: ""
    );

    /// <summary>What this property is tried with, and where its effect is looked for.</summary>
    private sealed record Scenario(string A, string B, Func<World, object?> Seen);

    /// <summary>One house: what a scenario changes one value of.</summary>
    private sealed record World(HouseRules Rules, MachineSpec Machine, RoomSpec Room)
    {
        public static World Of() => new(GateCase.Open().Facts.Rules, GateCase.Heron, Workshop);

        public World With(IReadOnlyList<FormField> form, string key, string value) =>
            form == HouseSheets.Rules ? this with { Rules = Changed(Rules, key, value) }
            : form == MachineForm.Fields ? this with { Machine = Changed(Machine, key, value) }
            : this with { Room = Changed(Room, key, value) };

        private static T Changed<T>(T of, string key, string value)
        {
            var root = JsonNode.Parse(GateJson.Write(of))!;
            var path = key.Split('.');
            var at = path[..^1].Aggregate(root, (node, name) => node[name] ??= new JsonObject());
            at[path[^1]] = JsonNode.Parse(value);
            return GateJson.Read<T>(root.ToJsonString());
        }

        public GateCase Case => GateCase.Open().With(f => f with { Rules = Rules, Machine = f.Machine with { Spec = Machine } });
    }

    private static Scenario Of(string a, string b, Func<World, object?> seen) => new(a, b, seen);

    /// <summary>Gone through 300 days ago, tried 30 days ago, last used 10 days ago.</summary>
    private static GateCase SetUp(GateCase c) =>
        c.With(f => f with { Machine = f.Machine with { SetUp = GateCase.WellSetUp, UsedAt = f.Now - Duration.FromDays(10) } });

    private static object Verdict(GateCase gate)
    {
        var decision = gate.Decide();
        return string.Join('\n', decision.Posts.SelectMany(p => p.Reasons).Select(r => $"{r.Code}: {r.Text}")) + $"\n{decision.Verdict}";
    }

    private static object Gate(World w) => Verdict(w.Case);

    /// <summary>Where another piece on the same sheet begins.</summary>
    private static object AnotherPiece(World w)
    {
        var s = SessionActsTests.Told();
        var facts = SessionActsTests.Facts with { Rules = w.Rules };
        return s.After(new StationAct(Deed.Next) { Next = NextWhat.Piece }, facts, s.TappedIn).Value.Step;
    }

    private static object OnRotary(World w) => Verdict(w.Case.OnRotary(100, new RoundPiece(73, null)));

    /// <summary>The job with work of unknown settings, two sheets and residue: its parts and what to book.</summary>
    private static object Length(World w) =>
        GateJson.Write(
            JobLength.Of(
                w.Case.Ask with
                {
                    Items = [w.Case.Ask.Items[0], w.Case.Ask.Items[0] with { ThicknessMm = 4 }],
                },
                w.Case.Facts with
                {
                    Sheets = [w.Case.Facts.Sheets[0], w.Case.Facts.Sheets[0]],
                    Drawings = [w.Case.Facts.Drawings[0], w.Case.Facts.Drawings[0]],
                    Machine = w.Case.Facts.Machine with { Tested = [] },
                }
            )
        );

    private static object CleanDown(World w) =>
        GateJson.Write(JobLength.Of(w.Case.Ask, w.Case.Facts with { Sheets = [w.Case.Facts.Sheets[0] with { HeavyResidue = true }] }));

    private static object Card(World w) => GateJson.Write(EmergencyCard.For(w.Machine, w.Room, w.Rules));

    private static object Aged(World w, int age) =>
        Verdict(w.Case.With(f => f with { Person = f.Person with { AgeYears = Fact.Known<int?>(age) } }));

    private static object AskedFor(World w, int minutes, int days = 1) =>
        Verdict(w.Case.Asking(a => a with { Minutes = minutes, Start = a.Start + Duration.FromDays(days - 1) }));

    private static object Booked(World w, int times, int hours) =>
        Verdict(
            w.Case.With(f =>
                f with
                {
                    Time = f.Time with
                    {
                        PersonBooked = GateCase.Spans([.. Enumerable.Range(0, times).Select(i => Before(f.Now, i, hours))]),
                    },
                }
            )
        );

    /// <summary>Ninety minutes from six in the evening.</summary>
    private static object Evening(World w) => Verdict(w.Case.Asking(a => a with { Start = a.Start + Duration.FromHours(4) }));

    /// <summary>Two bookings that nobody came to, the last five days ago.</summary>
    private static object Missed(World w) =>
        Verdict(
            w.Case.With(f => f with { Time = f.Time with { NoShows = [f.Now - Duration.FromDays(20), f.Now - Duration.FromDays(5)] } })
        );

    /// <summary>Bookings of one day, one after the other, before noon.</summary>
    private static Span Before(Instant now, int index, int hours) =>
        new(now + Duration.FromHours(14 + index * hours), now + Duration.FromHours(14 + (index + 1) * hours));

    private static object Drawn(World w, Func<DrawingSummary, DrawingSummary> change) =>
        string.Join(
            '\n',
            DrawingFindings
                .Of(
                    change(w.Case.Facts.Drawings[0].Drawing.Value!),
                    w.Rules.Colours,
                    w.Machine,
                    thicknessMm: 3,
                    tolerances: w.Rules.DrawingTolerances
                )
                .Select(f => $"{f.Code} {f.Severity} {f.Asks} {f.Text}")
        );

    private static object Drawing(World w) => Drawn(w, d => d);

    private static DrawingSummary Read(string svg) =>
        DrawingReading.Summarise("a.svg", DrawingFile.Read(new MemoryStream(System.Text.Encoding.UTF8.GetBytes(svg))));

    private static object Svg(World w, string shapes) =>
        Drawn(w, _ =>
            Read($"""<svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">{shapes}</svg>""")
        );

    private static object Run(World w) =>
        RunTime.Of(w.Case.Facts.Drawings[0].Drawing.Value!, w.Rules.Colours, RunSettings.For(w.Machine, 1.2m, 3)).Seconds;

    /// <summary>Two lines far from each other, and a filled patch.</summary>
    private static object Hopping(World w) =>
        RunTime
            .Of(
                Read(
                    """
                    <svg xmlns="http://www.w3.org/2000/svg" width="100mm" height="100mm" viewBox="0 0 100 100">
                    <g fill="none" stroke="#ff0000"><path d="M0 0H10"/><path d="M80 80H90"/></g><rect y="20" width="20" height="5"/></svg>
                    """
                ),
                w.Rules.Colours,
                RunSettings.For(w.Machine, 1.2m, 3)
            )
            .Seconds;

    private static IReadOnlyList<Question> Quiz(int count) =>
        [
            .. Enumerable
                .Range(0, count)
                .Select(i => new Question(
                    Id: $"q{i}",
                    Topic: "t",
                    Kind: QuestionKind.Single,
                    Critical: false,
                    Text: "?",
                    Options: ["yes", "no"],
                    Correct: [0],
                    Why: ""
                )),
        ];

    private static object Marked(World w) =>
        QuizMarking.Mark(Quiz(10), Enumerable.Range(0, 10).ToDictionary(i => $"q{i}", i => (IReadOnlyList<int>)[i < 8 ? 0 : 1]), w.Rules);

    private static object Observed(World w)
    {
        var sheet = new PracticalSheet("p", "P", 1, [new("a", "A", false), new("b", "B", false)]);
        return Practicals
            .Judge(
                sheet,
                [
                    new(Guid.NewGuid(), "a", StepMark.Prompted, null, GateCase.Now, "t"),
                    new(Guid.NewGuid(), "b", StepMark.Unprompted, null, GateCase.Now, "t"),
                ],
                w.Rules
            )
            .Outcome;
    }

    private static readonly TrainingModule[] Modules =
    [
        new("safety", ModuleKind.Reading, "Safety", "fire", 1, []),
        new("safety-quiz", ModuleKind.Quiz, "Quiz", "fire", 1, []),
    ];

    private static TrainingPath Path(World w) => Paths.Starting(w.Machine, w.Machine.Fixtures, Modules, w.Rules)[0];

    private static object Soon(World w) =>
        Reminders
            .For([new("heron", "Heron", new Lapse(GateCase.Now + Duration.FromDays(10), LapseCause.Date))], w.Rules, GateCase.Now)
            ?.Title
        ?? "";

    private static object Taught(World w) => Inductions.Wrong(GateCase.Start, 60, 3, w.Rules, GateCase.Now).Count;

    private static object Erased(World w) =>
        Retention.MayErase("m", "k", GateCase.Now - Duration.FromDays(200), null, false, [], w.Rules, GateCase.Now)?.Code ?? "";

    private static object Supervised(World w) =>
        Verdict(
            w.Case.Asking(a => a with { SupervisorId = "m-2" })
                .With(f =>
                    f with
                    {
                        Training = f.Training with
                        {
                            Certificates = Fact.Known<IReadOnlyList<Certificate>>([]),
                            SupervisorTrains = [GateCase.Always],
                            SupervisorCertified = [GateCase.Always],
                            SupervisorRuns = [new(GateCase.Start, GateCase.Start + Duration.FromHours(1))],
                        },
                    }
                )
        );

    private static string Stop(string change) =>
        $$"""[{"name":"red button","where":"front","cutsTube":true,"cutsExtraction":false{{change}}}]""";

    private static readonly Dictionary<string, Scenario> OfRules = new()
    {
        ["houseName"] = Of("\"One\"", "\"Two\"", Card),
        ["zoneId"] = Of("\"Europe/London\"", "\"America/New_York\"", Gate),
        ["pack"] = Of("\"memberRun\"", "\"school\"", w => GateJson.Write(Path(w))),
        ["hours"] = Of(
            """[{"day":"wednesday","opens":"09:00:00","closes":"21:00:00"}]""",
            """[{"day":"monday","opens":"09:00:00","closes":"21:00:00"}]""",
            Gate
        ),
        ["attendFromAge"] = Of("14", "16", w => Aged(w, 15)),
        ["aloneFromAge"] = Of("16", "18", w => Aged(w, 17)),
        ["guardianConsent"] = Of("true", "false", w => Aged(w, 17)),
        ["supervision"] = Of("\"adultInRoom\"", "\"secondPersonInCall\"", Gate),
        ["machinesPerAdult"] = Of("1", "2", Supervised),
        ["conduct"] = Of("\"warningLadder\"", "\"pauseAtOnce\"", w =>
            ConductLadder.Next(ConductMatter.LeftRunning, [], w.Rules, GateCase.Now)
        ),
        ["secondFactor"] = Of("true", "false", w => SecondFactor.Owed(w.Rules, [Role.Steward], has: false)),
        ["retentionMonths"] = Of("3", "12", Erased),
        ["certificateMonths"] = Of("12", "0", w => SignOffs.EndOf(GateCase.Now, w.Rules)),
        ["idleLapseDays"] = Of("90", "5", Gate),
        ["learnersPerTrainer"] = Of("2", "4", Taught),
        ["supervisedRuns"] = Of("0", "2", w =>
            GateJson.Write(
                Ladder.Of(
                    Path(w),
                    new Progress(
                        Modules: Modules,
                        Done: [],
                        Runs: [],
                        Inductions: [],
                        Outside: [],
                        Held: [],
                        Sessions: [],
                        Names: new Dictionary<string, string>()
                    ),
                    w.Rules,
                    GateCase.Now
                )
            )
        ),
        ["courseBeforeSignOff"] = Of("true", "false", w => SignOffs.MayPass(Path(w), ["the quiz"], false, w.Rules)?.Code),
        ["theoryDays"] = Of("0", "14", w =>
            string.Join(' ', Theory.Owed(Path(w), GateCase.Now, null, Modules, [], [], w.Rules).Select(o => o.CountsUntil))
        ),
        ["remindDays"] = Of("7", "14", Soon),
        ["promptsAllowed"] = Of("0", "1", Observed),
        ["quizPassPercent"] = Of("80", "90", Marked),
        ["quizCoolDownHours"] = Of("24", "48", w => QuizMarking.NextTry(GateCase.Now, w.Rules)),
        ["sameDayBooking"] = Of("true", "false", w => Verdict(w.Case.Asking(a => a with { Start = GateCase.Now + Duration.FromHours(2) }))),
        ["hoursPerPersonDay"] = Of("3", "1", Gate),
        ["hoursPerPersonWeek"] = Of("8", "1", Gate),
        ["openBookingsPerPerson"] = Of("3", "1", w => Booked(w, 2, 1)),
        ["slotMinutes"] = Of("15", "40", Length),
        ["bookAheadDays"] = Of("21", "5", w => AskedFor(w, 90, days: 8)),
        ["longestBookingMinutes"] = Of("480", "60", Gate),
        ["waitingOrder"] = Of("\"firstCome\"", "\"fewestHours\"", w => Core.Booking.Waiting.ByHours(w.Rules)),
        ["shortJobs"] = Of("false", "true", w =>
            GateJson.Write(JobLength.Of(w.Case.Asking(a => a with { Items = [a.Items[0] with { RunMinutes = 5 }] }).Ask, w.Case.Facts))
        ),
        ["residueWeight"] = Of("2", "3", w => new RunSums(1, 62, 14).By(UpkeepCounter.WeightedHours, w.Rules.ResidueWeight)),
        ["commissioningMonths"] = Of("36", "6", w => Verdict(SetUp(w.Case))),
        ["interlockDays"] = Of("183", "7", w => Verdict(SetUp(w.Case))),
        ["breakDays"] = Of("21", "7", w => Verdict(SetUp(w.Case))),
        ["finishingBenches"] = Of("0", "1", w => Verdict(w.Case.Asking(a => a with { Bench = new BenchWish() }))),
        ["benchMinutes"] = Of("30", "480", w =>
            Verdict((w with { Rules = w.Rules with { FinishingBenches = 1 } }).Case.Asking(a => a with { Bench = new BenchWish() }))
        ),
        ["classesOutsideLimits"] = Of("false", "true", w =>
            Verdict(
                w.Case.With(f =>
                    f with
                    {
                        Time = f.Time with
                        {
                            PersonBooked = GateCase.Spans([.. Enumerable.Range(1, 3).Select(i => Before(f.Now, -i, 1))]),
                            InClass = [.. Enumerable.Range(1, 3).Select(i => Before(f.Now, -i, 1))],
                        },
                    }
                )
            )
        ),
        ["bookLeadMinutes"] = Of("0", "2880", Gate),
        ["peakHoursPerPersonWeek"] = Of("0", "1", Evening),
        ["peakFromHour"] = Of("17", "20", w => Evening(w with { Rules = w.Rules with { PeakHoursPerPersonWeek = 1 } })),
        ["peakToHour"] = Of("21", "18", w => Evening(w with { Rules = w.Rules with { PeakHoursPerPersonWeek = 1 } })),
        ["noShowsBeforePause"] = Of("0", "2", Missed),
        ["noShowPauseDays"] = Of("1", "7", w => Missed(w with { Rules = w.Rules with { NoShowsBeforePause = 2 } })),
        ["drawingWanted"] = Of("\"nobody\"", "\"everybody\"", w =>
            Verdict(
                w.Case.Asking(a => a with { Items = [a.Items[0] with { DrawingId = null, RunMinutes = 5 }] })
                    .With(f => f with { Drawings = [new DrawingFacts(false, Fact.Known<DrawingSummary?>(null))] })
            )
        ),
        ["lastRunBeforeCloseMinutes"] = Of("0", "240", w =>
            AskedFor(
                w with
                {
                    Rules = w.Rules with { Hours = [new(IsoDayOfWeek.Wednesday, new LocalTime(9, 0), new LocalTime(17, 0))] },
                },
                90
            )
        ),
        ["minorInjuryUntilAge"] = Of("18", "25", w => Retention.InjuryKeptUntil(new LocalDate(2012, 1, 1), GateCase.Now, w.Rules)),
        ["fireWatchMinutes"] = Of("60", "90", Card),
        ["fireWatchPaper"] = Of("\"\"", "\"Policy 12\"", w => FireWatch.MayLast(45, w.Rules.FireWatchPaper)?.Code),
        ["hotPassFactor"] = Of("1.5", "3", w =>
            string.Join(
                ' ',
                Core.Incidents.Causes.Propose(
                        Core.Incidents.Mishap.Flame,
                        new(ThicknessMm: 3, UsualJPerMm2: 1.2m, Cut: true),
                        new(PowerW: 72, SpeedMmPerS: 8, Passes: 1),
                        w.Rules.HotPassFactor
                    )
                    .Select(c => c.Code)
            )
        ),
        ["membersAddSettings"] = Of("true", "false", w =>
            string.Join(' ', SettingRules.Check(SettingCase.Cut(), w.Machine, staff: false, w.Rules.MembersAddSettings).Select(r => r.Code))
        ),
        ["checksMinutes"] = Of("10", "20", Length),
        ["runFactor"] = Of("2", "3", Length),
        ["reloadMinutes"] = Of("3", "6", Length),
        ["cleanDownMinutes"] = Of("10", "20", Length),
        ["cleanDownResidueMinutes"] = Of("15", "30", CleanDown),
        ["changeoverMinutes"] = Of("5", "15", Length),
        ["testPieceMinutes"] = Of("10", "20", Length),
        ["pauseMinutes"] = Of("0", "2", w => CourseWords.Fill("{pause}", w.Rules)),
        ["walkUp"] = Of("true", "false", w => Verdict(w.Case.Asking(a => a with { Start = GateCase.Now + Duration.FromMinutes(10) }))),
        ["refocusPieces"] = Of("true", "false", AnotherPiece),
        ["pinWithFob"] = Of("true", "false", w => Pins.Asked(w.Rules, there: null, "m-4")),
        ["memberUpkeep"] = Of("\"nothing\"", "\"nozzleAndLens\"", w => UpkeepMethods.Lens.WhoFor(w.Rules.MemberUpkeep, false)),
        ["closing"] = Of("\"each\"", "\"lastOfDay\"", w => StationDoor.ShortClosing(w.Rules, comesAfter: true)),
        ["airMixingFactor"] = Of("3", "6", Length),
        ["airResidual"] = Of("0.01", "0.0001", Length),
        ["airClearingFloorSeconds"] = Of("30", "300", Length),
        ["closedMachinesOnly"] = Of("true", "false", w => Gate(w with { Machine = w.Machine with { LaserClass = "4" } })),
        ["attentionMinutes"] = Of("1", "2", w => Attention.Minutes(w.Machine, w.Rules)),
        ["pageIsSheet"] = Of("true", "false", Gate),
        ["eyewearAlways"] = Of("true", "false", Gate),
        ["card"] = Of("\"stopAndLeave\"", "\"trainedExtinguisher\"", Card),
        ["colours"] = Of("""{"strokes":{"#ff0000":"cut"}}""", """{"strokes":{"#ff0000":"engrave"}}""", Gate),
        ["nearLinesStopMm"] = Of("5", "1000", w =>
            Svg(w, """<g fill="none" stroke="#ff0000"><path d="M10 10H50"/><path d="M10 10.1H50"/></g>""")
        ),
        ["crowdedCutsPercent"] = Of("0", "100", w =>
            Svg(w, """<g fill="none" stroke="#ff0000"><path d="M10 10H50"/><path d="M10 11H50"/></g>""")
        ),
        ["runMinutePrice"] = Of("0.5", "2", w => RunCost.Of(90, w.Rules)?.Amount),
        ["currency"] = Of("\"€\"", "\"tokens\"", w => RunCost.Of(90, w.Rules with { RunMinutePrice = 1 })!.Currency),
        ["picturePpi"] = Of("300", "100", w => Drawn(w, d => d with { Images = 1, Pictures = [Picture] })),
        ["pictureGreyPercent"] = Of("5", "100", w => Drawn(w, d => d with { Images = 1, Pictures = [Picture] })),
        ["drawingMonths"] = Of("12", "24", w => DrawingRoom.KeptSince(GateCase.Now, w.Rules)),
        ["houseStockMonths"] = Of("12", "6", w => SheetDesk.LastDay(new LocalDate(2026, 11, 24), true, w.Rules)),
        ["broughtInMonths"] = Of("0", "3", w => SheetDesk.LastDay(new LocalDate(2026, 11, 24), false, w.Rules)),
        ["polycarbonateOffered"] = Of("true", "false", w =>
            RulingChanges.Polycarbonate("polycarbonate", [Arranged], w.Rules.PolycarbonateOffered)?.Code
        ),
        ["flameTestOffered"] = Of("true", "false", w => string.Join(' ', Identification.Cautions(w.Rules.FlameTestOffered))),
    };

    private static Ruling Arranged =>
        MaterialTable.Rulings.First(r => r.Standing == RulingStatus.ByArrangement) with
        {
            MaterialId = "polycarbonate",
        };

    /// <summary>40 mm wide, 315 pixels across: 200 to the inch.</summary>
    private static PlacedPicture Picture => new(X: 50, Y: 50, WidthMm: 40, HeightMm: 40, Pixels: 315, Rows: 315, Place: null, Greys: 0.2);

    private static object Read(World w, decimal coolant, decimal? room = null) =>
        Verdict(w.Case.With(f => f with { Machine = f.Machine with { Live = new LiveReadings(true, 650, coolant, RoomC: room) } }));

    private static readonly Dictionary<string, Scenario> OfMachine = new()
    {
        ["id"] = Of("\"heron\"", "\"robin\"", w => Path(w).Authority),
        ["name"] = Of("\"Heron\"", "\"Robin\"", Card),
        ["kind"] = Of("\"co2\"", "\"diode\"", w => GateJson.Write(Path(w))),
        ["wavelengthNm"] = Of("10600", "1064", w => Gate(w with { Machine = w.Machine with { LaserClass = "4" } })),
        ["powerW"] = Of("80", "40", Run),
        ["hereFrom"] = Of("\"2026-01-01\"", "\"2027-01-01\"", Gate),
        ["hereUntil"] = Of("\"2027-01-01\"", "\"2026-01-01\"", Gate),
        ["laserClass"] = Of("\"1\"", "\"4\"", Gate),
        ["station.enclosureKind"] = Of("\"closed\"", "\"openFrame\"", Gate),
        ["bedWidthMm"] = Of("900", "30", Drawing),
        ["bedHeightMm"] = Of("600", "30", Drawing),
        ["marginMm"] = Of("10", "290", Drawing),
        ["maxCutMm"] = Of("8", "2", Gate),
        ["maxHeightMm"] = Of("180", "1", w =>
            Verdict(w.Case.Asking(a => a with { Items = [a.Items[0] with { Operations = [Operation.Engrave] }] }))
        ),
        ["kerfMm"] = Of("0.2", "3", w => Svg(w, """<g fill="none" stroke="#ff0000"><path d="M10 10H50"/><path d="M10 11H50"/></g>""")),
        ["accelerationMmS2"] = Of("3000", "100", Run),
        ["topSpeedMmS"] = Of("500", "5", Run),
        ["widestLineMm"] = Of("2", "0.1", w => Svg(w, """<path d="M10 10H50" fill="none" stroke="#ff0000" stroke-width="1"/>""")),
        ["motion.cornerMmS"] = Of("0", "5", Run),
        ["motion.rapidMmS"] = Of("500", "5", w => Hopping(w)),
        ["motion.startUpSeconds"] = Of("0", "4", Run),
        ["motion.overscanMm"] = Of("0", "90", w => Hopping(w)),
        ["fixtures"] = Of("""["rotary"]""", "[]", w =>
            string.Join(' ', Paths.Starting(w.Machine, w.Machine.Fixtures, Modules, w.Rules).Select(p => p.Authority))
        ),
        ["station.attentionMinutes"] = Of("1", "2", w => Attention.Minutes(w.Machine, w.Rules)),
        ["station.coolantCautionC"] = Of("25", "20", w => Read(w, coolant: 22)),
        ["station.coolantAskC"] = Of("28", "26.5", w => Read(w, coolant: 27)),
        ["station.coolantShutC"] = Of("32", "29", w => Read(w, coolant: 30)),
        ["station.coolantColdC"] = Of("5", "12", w => Read(w, coolant: 10)),
        ["station.roomMinimumC"] = Of("10", "19", w => Read(w, coolant: 21, room: 15)),
        ["station.mirrorCoversMarked"] = Of("true", "false", w =>
            UpkeepMethods.Mirrors.WhoFor(MemberUpkeep.MarkedMirrors, w.Machine.Station!.MirrorCoversMarked)
        ),
        ["station.wallW"] = Of("800", "1500", w => RunEnergy.Of(90, w.Machine)?.WattHours),
        ["station.rotaryFromMm"] = Of("10", "80", OnRotary),
        ["station.rotaryToMm"] = Of("90", "60", OnRotary),
        ["station.attentionFromTapIn"] = Of("true", "false", w => TapInAttention.Until(SessionActsTests.TappedIn(), w.Machine, w.Rules)),
        ["station.pauseStopsBeam"] = Of("true", "false", w => RunPauses.Minutes(w.Machine, w.Rules with { PauseMinutes = 2 })),
        ["station.framing"] = Of("\"pointerLidOpen\"", "\"beamOffLidShut\"", w => Clamped(w)),
        ["extraction"] = Of("\"ducted\"", "\"filtered\"", w =>
            Verdict(w.Case.With(f => f with { Room = f.Room with { Air = Fact.Known(new RoomAirFacts(false, false)) } }))
        ),
        ["station.extractionPower"] = Of("\"ownSwitch\"", "\"withMachine\"", Card),
        ["station.extractionSwitch"] = Of("\"wall\"", "\"back\"", Card),
        ["extractionLeadSeconds"] = Of("90", "300", Length),
        ["enclosureM3"] = Of("0.45", "5", Length),
        ["airflowM3PerHour"] = Of("650", "0", Gate),
        ["station.airAssist"] = Of("\"automatic\"", "\"handValve\"", Card),
        ["waterCooled"] = Of("true", "false", w =>
            Verdict(w.Case.With(f => f with { Machine = f.Machine with { Readings = Fact.Unknown<bool>() } }))
        ),
        ["station.stopDevices"] = Of(Stop(""), Stop(""","cutsTube":false"""), Card),
        ["station.suppression"] = Of("\"\"", "\"button at the front\"", w =>
            Card(w with { Rules = w.Rules with { Card = CardVariant.SuppressionThenCo2 } })
        ),
        ["station.suppressionKind"] = Of("\"button\"", "\"heatTriggered\"", w =>
            Card(
                w with
                {
                    Machine = w.Machine with { Station = w.Machine.Station! with { Suppression = "gas" } },
                    Rules = w.Rules with { Card = CardVariant.SuppressionThenCo2 },
                }
            )
        ),
        ["station.pulsed"] = Of("true", "false", w =>
            Verdict(
                (w with { Machine = w.Machine with { LaserClass = "4" } }).Case.With(f =>
                    f with
                    {
                        Room = f.Room with
                        {
                            Eyewear = Fact.Known<IReadOnlyList<EyewearFacts>>([new("Goggles", 10000, 11000, 7, true, 4)]),
                        },
                    }
                )
            )
        ),
    };

    /// <summary>A head that meets a clamp is said where framing shows it.</summary>
    private static object Clamped(World w) =>
        string.Join(
            '\n',
            DrawingFindings
                .Of(w.Case.Facts.Drawings[0].Drawing.Value!, w.Rules.Colours, w.Machine, clamps: [new Clamp(20, 20, 20)])
                .Select(f => f.Text + f.Why)
        );

    private static readonly Dictionary<string, Scenario> OfRoom = new()
    {
        ["name"] = Of("\"Ropewalk\"", "\"Loft\"", w => Card(w with { Room = w.Room with { Address = "1 Ropewalk" } })),
        ["address"] = Of("\"\"", "\"1 Ropewalk\"", Card),
        ["freshAir"] = Of("\"\"", "\"windows\"", Aired),
        ["coAlarm"] = Of("true", "false", Aired),
        ["extinguisher"] = Of("\"co2\"", "\"dryPowder\"", Card),
        ["extinguisherWhere"] = Of("\"door\"", "\"wall\"", Card),
        ["waterAllowed"] = Of("true", "false", Card),
        ["alarmPoint"] = Of("\"corridor\"", "\"hall\"", Card),
        ["wayOut"] = Of("\"left\"", "\"right\"", Card),
        ["meetingPoint"] = Of("\"gate\"", "\"yard\"", Card),
        ["emergencyCall"] = Of("\"112\"", "\"999\"", Card),
        ["whoToTell"] = Of("\"keeper\"", "\"caretaker\"", Card),
        ["firstAid"] = Of("\"shelf\"", "\"office\"", Card),
    };

    private static object Aired(World w) =>
        Verdict(
            (w with { Machine = w.Machine with { Extraction = Extraction.Filtered } }).Case.With(f =>
                f with
                {
                    Room = f.Room with { Air = Fact.Known(RoomAirFacts.Of(w.Room)) },
                }
            )
        );

    /// <summary>Fields whose effect lies with the database or a page: the test there, which has to name them.</summary>
    private static readonly Dictionary<string, (string File, string Names)> Elsewhere = new()
    {
        ["agreement"] = ("tests/Web.Tests/House/FieldsInForceTests.cs", "HouseRules.Agreement"),
        ["noShowGraceMinutes"] = ("tests/Web.Tests/House/FieldsInForceTests.cs", "NoShowGraceMinutes"),
        ["releaseNoShows"] = ("tests/Web.Tests/House/FieldsInForceTests.cs", "ReleaseNoShows"),
        ["labelColumns"] = ("tests/Web.Tests/House/FieldsInForceTests.cs", "LabelColumns"),
        ["labelRows"] = ("tests/Web.Tests/House/FieldsInForceTests.cs", "LabelRows"),
    };

    public static TheoryData<string, string> InForce() =>
        [
            .. new[] { ("rules", HouseSheets.Rules), ("machine", MachineForm.Fields), ("room", HouseSheets.Room) }.SelectMany(form =>
                form.Item2.Where(f => f.Effect == FieldEffect.InForce).Select(f => (form.Item1, f.Key))
            ),
        ];

    [Theory]
    [MemberData(nameof(InForce))]
    public void Property_OfTwoValues_ChangesWhatComesOut(string form, string key)
    {
        var (fields, scenarios) = form switch
        {
            "rules" => (HouseSheets.Rules, OfRules),
            "machine" => (MachineForm.Fields, OfMachine),
            _ => (HouseSheets.Room, OfRoom),
        };
        if (Elsewhere.TryGetValue(key, out var test))
        {
            File.ReadAllText(VelvetGate.Tests.Support.Repo.Path(test.File)).ShouldContain(test.Names);
            return;
        }
        var scenario = scenarios.GetValueOrDefault(key).ShouldNotBeNull($"Nothing says what {form}.{key} does.");
        var a = scenario.Seen(World.Of().With(fields, key, scenario.A));
        var b = scenario.Seen(World.Of().With(fields, key, scenario.B));
        a.ShouldNotBe(b, $"{form}.{key}: {scenario.A} and {scenario.B} lead to the same.");
    }

    /// <summary>A scenario of a property that no form has, or that the form calls information, would be a mistake here.</summary>
    [Fact]
    public void Scenarios_AreOfFieldsInForce()
    {
        OfRules.Keys.Except(HouseSheets.Rules.Where(f => f.Effect == FieldEffect.InForce).Select(f => f.Key)).ShouldBeEmpty();
        OfMachine.Keys.Except(MachineForm.Fields.Where(f => f.Effect == FieldEffect.InForce).Select(f => f.Key)).ShouldBeEmpty();
        OfRoom.Keys.Except(HouseSheets.Room.Where(f => f.Effect == FieldEffect.InForce).Select(f => f.Key)).ShouldBeEmpty();
    }
}
