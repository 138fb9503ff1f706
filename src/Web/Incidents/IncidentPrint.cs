using System.Globalization;
using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Incidents;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Incidents;

/// <summary>Incidents on paper: one, the register, and a page of the accident book.</summary>
internal static class IncidentPrint
{
    /// <param name="personal">Names, injuries and photos as well.</param>
    public static byte[] One(IncidentResponse i, bool personal, IReadOnlyList<byte[]> photos, HouseRules rules, Instant now)
    {
        string At(Instant? at) => at is { } t ? Moment(t, rules) : "";
        using var paper = new Paper(
            $"Incident {i.Number}: {i.WhatWords}, {i.Place}",
            $"{rules.HouseName}, {(personal ? "with personal data" : "without names")}, printed {Moment(now, rules)}"
        );
        paper.Pair("When", At(i.At));
        paper.Pair("Where", i.Place);
        paper.Pair("Severity", $"{i.Severity}, {Mishaps.Says((Severity)i.Severity)}");
        if (personal)
        {
            paper.Pair("From the record", string.Join("; ", i.FilledIn));
            paper.Pair("Who was there", string.Join(", ", i.Involved.Select(v => v.Part == "ran" ? $"{v.Name} (ran it)" : v.Name)));
        }
        else
            paper.Pair("Sheet", i.Tag?.Value ?? i.MaterialName);
        paper.Pair(
            "Damage",
            personal ? i.Damage
                : i.Damage is null ? null
                : "kept with the incident"
        );
        paper.Pair("Cost", i.Cost?.ToString("0.00", CultureInfo.InvariantCulture));
        paper.Pair("Put out by", personal ? i.PutOut : null);
        paper.Pair("Fire service", i.FireService ? "called to be safe" : null);
        paper.Pair(
            "Burnt, marked, scrapped",
            i.Marked switch
            {
                true => "yes",
                false => "no",
                _ => null,
            }
        );
        paper.Pair("Hurt", i.Hurt ? "yes" : "no");
        paper.Pair("Reportable by law", Law(i.Law));
        if (personal)
        {
            paper.Heading("What was seen, in order");
            foreach (var seen in i.Seen)
                paper.Columns([(At(seen.At), 0.24), ($"{seen.Words} ({seen.By})", 0.76)], 10);
        }
        paper.Heading("Holds");
        foreach (var hold in i.Holds)
            paper.Columns([(Hold(hold, personal), 0.4), ($"{hold.Reason} {State(hold, rules, personal)}", 0.6)], 9.5);
        if (i.Holds.Count == 0)
            paper.Line("None.");
        paper.Heading("Causes");
        foreach (var cause in i.Causes)
            paper.Columns([($"{(cause.Ticked ? "[x]" : "[ ]")} {cause.Title}", 0.4), (cause.Evidence ?? "", 0.6)], 9.5);
        paper.Heading("Actions");
        foreach (var action in i.Actions)
            paper.Columns(
                [
                    ($"{action.Text}{(personal ? $" ({action.Owner})" : "")}", 0.6),
                    ($"until {new LastDay(action.Due)}{(action.Ended ? action.Done == true ? ", done" : ", given up" : "")}", 0.4),
                ],
                9.5
            );
        if (i.Actions.Count == 0)
            paper.Line("None.");
        if (i.Watch.Who is { } watcher)
        {
            paper.Heading("Fire watch");
            paper.Line($"{(personal ? $"{watcher}, " : "")}{At(i.Watch.Began)} to {At(i.Watch.Ends)}");
            foreach (var look in i.Watch.Looks)
                paper.Columns([($"{look.Minute} min", 0.15), (look.Found ?? look.State.ToString().ToLowerInvariant(), 0.85)]);
        }
        if (personal && i.Injuries.Count > 0)
        {
            paper.Heading("Injuries");
            foreach (var injury in i.Injuries)
                paper.Columns(
                    [
                        (injury.Who, 0.24),
                        ($"{injury.Words ?? "erased, as the law has it"} (kept until {new LastDay(injury.KeptUntil)})", 0.76),
                    ],
                    9.5
                );
        }
        foreach (var photo in photos)
            paper.Picture(photo);
        return paper.Finish();
    }

    /// <summary>The register: every incident in a line, no names.</summary>
    public static byte[] Register(IReadOnlyList<IncidentLineResponse> lines, HouseRules rules, Instant now)
    {
        using var paper = new Paper("Register of incidents", $"{rules.HouseName}, without names, printed {Moment(now, rules)}");
        double[] parts = [0.07, 0.19, 0.14, 0.24, 0.06, 0.2, 0.1];
        string[] heads = ["No.", "When", "Where", "What", "Sev.", "Causes", "Stands"];
        paper.Columns([.. heads.Zip(parts)], 9);
        foreach (var line in lines)
            paper.Columns(
                [
                    ($"{line.Number}", parts[0]),
                    (Moment(line.At, rules), parts[1]),
                    (line.Place, parts[2]),
                    (line.WhatWords + (line.CarriedOver ? " (carried over)" : ""), parts[3]),
                    ($"{line.Severity}", parts[4]),
                    (string.Join(", ", line.Causes), parts[5]),
                    (line.Open ? "open" : "closed", parts[6]),
                ],
                8.5
            );
        if (lines.Count == 0)
            paper.Line("None so far.");
        return paper.Finish();
    }

    /// <summary>The list for the meeting point, with a box to tick for each.</summary>
    public static byte[] HeadCount(HeadCountResponse list, HouseRules rules)
    {
        using var paper = new Paper(list.Title, $"{rules.HouseName}, with names, printed {Moment(list.At, rules)}");
        paper.Line($"As of {Moment(list.At, rules)}: {list.Count}. Nobody goes back in to look; tell the fire service who is missing.", 11);
        foreach (var place in list.Places)
        {
            paper.Heading(place.Place);
            foreach (var person in place.People)
                paper.Columns([("____", 0.1), (person.Name, 0.4), (person.Says, 0.5)], 12);
        }
        if (list.Places.Count == 0)
            paper.Line("The house knows of nobody.");
        return paper.Finish();
    }

    /// <summary>One injury on a page of its own, as an accident book has it: nobody else's is on it. Common practice.</summary>
    public static byte[] AccidentPage(IncidentResponse i, InjuryResponse injury, HouseRules rules, Instant now)
    {
        using var paper = new Paper(
            $"Accident book: {injury.Who}",
            $"{rules.HouseName}, confidential, incident {i.Number}, printed {Moment(now, rules)}"
        );
        paper.Pair("Who was hurt", injury.Who);
        paper.Pair("When", Moment(i.At, rules));
        paper.Pair("Where", i.Place);
        paper.Pair("What happened", i.WhatWords);
        paper.Pair("Severity", $"{i.Severity}, {Mishaps.Says((Severity)i.Severity)}");
        paper.Heading("The injury, and what was done");
        paper.Line(injury.Words ?? "Erased, as the law has it.", 11);
        paper.Heading("What was seen, in order");
        foreach (var seen in i.Seen)
            paper.Columns([(seen.At is { } at ? Moment(at, rules) : "", 0.24), (seen.Words, 0.76)], 10);
        paper.Heading("By law");
        paper.Pair("Reportable", Law(i.Law));
        paper.Pair("Kept until", $"{new LastDay(injury.KeptUntil)}");
        paper.Heading("Signed");
        foreach (var who in new[] { "Who was hurt", "Who wrote it", "Steward" })
            paper.Columns([(who, 0.24), ("________________________________   Day ______________", 0.76)], 12);
        return paper.Finish();
    }

    private static string Law(LawResponse law) =>
        law.Wanted switch
        {
            true => $"yes{(law.To.Length > 0 ? $", to {law.To}" : "")}{(law.By is { } by ? $", by {by}" : "")}"
                + (law.Number.Length > 0 ? $", number {law.Number}" : ""),
            false => "no",
            _ => "nobody has looked yet",
        };

    /// <summary>A card for the lid: the code leads to three taps, and to the emergency card.</summary>
    public static byte[] Code(string machine, string address, HouseRules rules)
    {
        using var paper = new Paper($"{machine}: something nearly went wrong?", rules.HouseName);
        paper.Line("Point a phone here. Three taps, no name, no account: it helps the next person.", 14);
        paper.Code(address);
        paper.Line(address, 9);
        paper.Line("Still burning, glowing or smelling? The red button of that page first, and the card beside this machine.", 12);
        return paper.Finish();
    }

    private static string Hold(IncidentHoldResponse hold, bool personal) =>
        hold.Kind == HoldKind.Conduct && !personal ? IncidentHolds.Title(hold.Kind, "a person") : hold.Title;

    private static string State(IncidentHoldResponse hold, HouseRules rules, bool personal) =>
        hold.State switch
        {
            "set" => $"Set {Moment(hold.At!.Value, rules)}.",
            "ended" => $"Ended {Moment(hold.EndedAt!.Value, rules)}{(personal ? $" by {hold.EndedBy}: {hold.Words}" : ".")}",
            "refused" => personal ? $"Not needed: {hold.Words}" : "Not needed.",
            _ => "Proposed.",
        };

    private static string Moment(Instant at, HouseRules rules) =>
        rules.Clock.At(at).ToString("d MMM uuuu HH:mm", CultureInfo.InvariantCulture);
}
