namespace VelvetGate.Core.House;

/// <summary>What is refused about the house: its rules, calendar and forms, each once.</summary>
public static class HouseProblems
{
    public static readonly Problem ClassAtOnce = new(
        "class.atOnce",
        ProblemKind.Invalid,
        "In this house {0} of a class may run at one time: one adult supervises {1}, and teaches {2} hands "
            + "on. A keeper may change the rule."
    );
    public static readonly Problem ColoursBad = new(
        "colours.bad",
        ProblemKind.Invalid,
        "“{0}” is not a colour rule. Write it like #8a2252=cut."
    );
    public static readonly Problem HoldIncident = new(
        "hold.incident",
        ProblemKind.Conflict,
        "Incident {0} keeps this machine out of service. It comes back on the page of the incident, once its list has been gone through."
    );
    public static readonly Problem WatchShort = new(
        "watch.short",
        ProblemKind.Invalid,
        "Shorter than {0} minutes only where the insurer has said so on paper: name the paper."
    );
    public static readonly Problem FormMissing = new("form.missing", ProblemKind.Invalid, "Fill in the form.");
    public static readonly Problem FormText = new("form.text", ProblemKind.Invalid, "A value holds half a character. Type it again.");
    public static readonly Problem FormField = new("form.field", ProblemKind.Invalid, "Look at this field again.");
    public static readonly Problem HoldSelf = new("hold.self", ProblemKind.Forbidden, "Nobody releases themselves; ask another steward.");
    public static readonly Problem HoldSelfDecided = new(
        "hold.self",
        ProblemKind.Forbidden,
        "Nobody decides about their own certificate; ask another steward."
    );
    public static readonly Problem CalendarPast = new(
        "calendar.past",
        ProblemKind.Invalid,
        "All of it is past. Give a first day that is still to come."
    );
    public static readonly Problem CalendarOverlap = new(
        "calendar.overlap",
        ProblemKind.Conflict,
        "This steward is on duty then already. End that line first, or leave the days out."
    );
    public static readonly Problem CalendarOverlapOfItself = new("calendar.overlap", ProblemKind.Conflict, "Two of its own times overlap.");
    public static readonly Problem CalendarOverlapOfClass = new(
        "calendar.overlap",
        ProblemKind.Conflict,
        "Another class has one of these machines, or this adult, at that time."
    );
    public static readonly Problem CalendarUnknownAdult = new("calendar.unknownId", ProblemKind.Invalid, "That adult has no account here.");
    public static readonly Problem CalendarNoSteward = new(
        "calendar.unknownId",
        ProblemKind.Invalid,
        "Only a steward is on duty. Choose one."
    );
    public static readonly Problem CalendarUnknownPerson = new(
        "calendar.unknownId",
        ProblemKind.Invalid,
        "One of these people has no account here."
    );
    public static readonly Problem CalendarUnknownMachine = new(
        "calendar.unknownId",
        ProblemKind.Invalid,
        "One of these machines is not in this house."
    );
    public static readonly Problem HouseFounded = new(
        "house.founded",
        ProblemKind.Conflict,
        "This house has its first keeper already. Sign in, or ask them for an account."
    );
    public static readonly Problem MachineTaken = new(
        "machine.taken",
        ProblemKind.Conflict,
        "There is a machine “{0}” already. Choose another short name."
    );
    public static readonly Problem LocalBad = new("local.bad", ProblemKind.Invalid, "Give the wall-clock time like 2026-11-24T10:15.");
    public static readonly Problem LocalMissing = new(
        "local.missing",
        ProblemKind.Unprocessable,
        "The clocks go forward over that time: there is no {0:HH:mm}. The next is {1}."
    );
    public static readonly Problem MonthBad = new("month.bad", ProblemKind.Invalid, "Write the month like 2026-11.");
    public static readonly Problem RulesSame = new("rules.same", ProblemKind.Invalid, "Nothing differs from the rules that hold then.");
    public static readonly Problem ColoursMissing = new(
        "colours.missing",
        ProblemKind.Invalid,
        "Name at least the colour that cuts: a colour without an operation is refused, never guessed."
    );
    public static readonly Problem CalendarRule = new(
        "calendar.rule",
        ProblemKind.Invalid,
        "Write how it repeats, such as FREQ=WEEKLY;BYDAY=MO."
    );
    public static readonly Problem FileTooLong = new(
        "calendar.tooLong",
        ProblemKind.TooLarge,
        "That file is larger than {0} kB. Export the closures alone, without years that are past."
    );
    public static readonly Problem FileNoCalendar = new(
        "calendar.noCalendar",
        ProblemKind.Invalid,
        "No line of a calendar stands in this file. Export it as iCalendar (.ics)."
    );
    public static readonly Problem FileManyLines = new(
        "calendar.tooLong",
        ProblemKind.TooLarge,
        "More than {0} lines stand in this file. Export the closures alone, without years that are past."
    );
    public static readonly Problem FileLine = new("calendar.line", ProblemKind.Unprocessable, "{0}");
    public static readonly Problem FixtureOut = new(
        "fixture.out",
        ProblemKind.Conflict,
        "Somebody has it. It is taken back first, by a steward or by whoever has it."
    );
    public static readonly Problem FixtureDamaged = new(
        "fixture.damaged",
        ProblemKind.Conflict,
        "It came back damaged. A steward looks at it first, and writes down that it is in order."
    );
    public static readonly Problem FixtureNotBooked = new(
        "fixture.notBooked",
        ProblemKind.Forbidden,
        "You have no booking with it now. Book it with the machine, or ask a steward to hand it out."
    );
    public static readonly Problem FixtureDue = new(
        "fixture.due",
        ProblemKind.Invalid,
        "Say when it is due back: after now, and within {0} days."
    );
    public static readonly Problem FixtureHere = new("fixture.here", ProblemKind.Conflict, "Nobody has it: it is written down as back.");
    public static readonly Problem FixtureOthers = new(
        "fixture.others",
        ProblemKind.Forbidden,
        "Somebody else has it. They, or a steward, write down that it is back."
    );
    public static readonly Problem FixtureNote = new("fixture.note", ProblemKind.Invalid, "Write at most {0} letters.");
    public static readonly Problem FixtureWhat = new(
        "fixture.note",
        ProblemKind.Invalid,
        "Say what is wrong with it, so that whoever looks at it knows."
    );

    public static readonly Problem PaperMachine = new("paper.machine", ProblemKind.Invalid, "Choose which machine it is about.");
    public static readonly Problem PaperHouse = new("paper.house", ProblemKind.Invalid, "It is of the house. Choose no machine.");
    public static readonly Problem PaperDay = new("paper.day", ProblemKind.Invalid, "It lies ahead. Enter the day on which it was done.");
    public static readonly Problem PaperNext = new("paper.next", ProblemKind.Invalid, "The next day lies after the day it was done.");
    public static readonly Problem PaperEnd = new(
        "paper.end",
        ProblemKind.Invalid,
        "Say until which day at the latest it stays isolated: nothing is left so without an end."
    );
    public static readonly Problem PaperBy = new("paper.by", ProblemKind.Invalid, "Say who answers for it, in at most {0} letters.");
    public static readonly Problem PaperSays = new("paper.says", ProblemKind.Invalid, "Write at most {0} letters.");
}
