using NodaTime;
using VelvetGate.Core.Incidents;

namespace VelvetGate.Web.Incidents;

/// <param name="At">RFC 3339 with an offset.</param>
/// <param name="MachineId">Empty for the room.</param>
/// <param name="There">People who were there, whoever tells among them unless <paramref name="NotThere"/>.</param>
/// <param name="NotThere">Whoever tells was not there, and writes down what others told.</param>
/// <param name="Injury">Kept apart: stewards and keepers alone.</param>
public sealed record IncidentRequest(
    string? MachineId = null,
    string? At = null,
    string? What = null,
    int? Severity = null,
    string? RunId = null,
    string? Seen = null,
    string? Damage = null,
    decimal? Cost = null,
    bool FireService = false,
    bool? Marked = null,
    bool Hurt = false,
    string? Injury = null,
    string? PutOut = null,
    string? Tag = null,
    FactsRequest? Facts = null,
    IReadOnlyList<string>? There = null,
    bool? NotThere = null
);

/// <summary>What is told until another room knows it. Lengths as typed, such as <c>1/4 in</c>.</summary>
public sealed record FactsRequest(
    string? SettingsFor = null,
    string? Measured = null,
    string? Unit = null,
    bool? FocusSet = null,
    bool? SomebodyThere = null,
    bool? AirAssistOn = null,
    decimal? AirflowPercent = null,
    bool? LidTooSoon = null,
    decimal? PowerW = null,
    decimal? SpeedMmPerS = null,
    int? Passes = null
);

/// <param name="Version">As it was read.</param>
public sealed record ChangeRequest(
    int? Version = null,
    int? Severity = null,
    string? Damage = null,
    decimal? Cost = null,
    bool? FireService = null,
    bool? Marked = null,
    string? PutOut = null,
    string? MakerSays = null,
    string? Tag = null,
    FactsRequest? Facts = null,
    LawRequest? Law = null
);

public sealed record LawRequest(bool? Wanted = null, string? To = null, string? By = null, string? Number = null);

/// <param name="At">When it was seen; empty where nobody knows.</param>
public sealed record WordsRequest(string? Words = null, string? At = null);

public sealed record HoldRequest(string? Kind = null, string? Target = null, string? Reason = null);

public sealed record HoldsRequest(IReadOnlyList<HoldRequest>? Holds = null);

/// <param name="Checks">Codes of the list that were gone through.</param>
public sealed record EndHoldRequest(string? Reason = null, IReadOnlyList<string>? Checks = null, bool OpticsTouched = false);

public sealed record CausesRequest(IReadOnlyList<string>? Codes = null, string? Note = null);

/// <param name="ShowsBy">What would show that it helped.</param>
/// <param name="Link">A path inside the application.</param>
public sealed record ActionRequest(
    string? Text = null,
    string? OwnerId = null,
    string? Due = null,
    string? ShowsBy = null,
    string? Link = null
);

/// <param name="Done">False gives it up.</param>
public sealed record EndActionRequest(string? Words = null, bool Done = true);

public sealed record NoteRequest(string? Note = null);

/// <param name="PersonId">Who watches; empty for whoever asks.</param>
public sealed record WatchRequest(string? PersonId = null);

public sealed record LookAtRequest(int? Minute = null, string? Found = null, string? Note = null);

/// <param name="PersonId">Empty for a visitor.</param>
public sealed record InjuryRequest(string? PersonId = null, string? Words = null);

/// <param name="StopsMachine">Telling it puts the machine out of service.</param>
/// <param name="ShutsRoom">Telling it shuts the room, and holds the sheet.</param>
public sealed record MishapChoice(Mishap What, string Words, bool StopsMachine, bool ShutsRoom);

public sealed record SeverityChoice(int Severity, string Words);

public sealed record CauseChoice(string Code, string Title);

/// <summary>What an incident is described with.</summary>
public sealed record IncidentChoices(
    IReadOnlyList<MishapChoice> Mishaps,
    IReadOnlyList<SeverityChoice> Severities,
    IReadOnlyList<CauseChoice> Causes
);

/// <param name="Title">What it is, whether proposed, standing or ended.</param>
/// <param name="Press">The words of the press that sets it.</param>
/// <param name="State"><c>proposed</c>, <c>set</c>, <c>refused</c> or <c>ended</c>.</param>
/// <param name="Checks">What is gone through before it ends.</param>
public sealed record IncidentHoldResponse(
    Guid? Id,
    HoldKind Kind,
    string Target,
    string Title,
    string Press,
    string Reason,
    string State,
    string? By,
    Instant? At,
    string? EndedBy,
    Instant? EndedAt,
    string? Words,
    IReadOnlyList<HoldCheckResponse> Checks
);

public sealed record HoldCheckResponse(string Code, string Words);

/// <param name="Told">It rests on what somebody said.</param>
public sealed record CauseResponse(string Code, string Title, string? Evidence, bool Told, bool Ticked);

public sealed record IncidentMade(Guid Id, int Number, IReadOnlyList<IncidentHoldResponse> Holds, IReadOnlyList<CauseResponse> Causes);

/// <param name="Place">Name of the machine, or “the room”.</param>
public sealed record IncidentLineResponse(
    Guid Id,
    int Number,
    MachineId? MachineId,
    string Place,
    Instant At,
    Mishap What,
    string WhatWords,
    int Severity,
    IReadOnlyList<string> Causes,
    int HoldsSet,
    bool Open,
    bool CarriedOver
);

/// <param name="MachineId">Somebody told of fire or smoke there without a name.</param>
public sealed record LookAskedResponse(MachineId MachineId, string Name);

/// <param name="Yours">Only those the one who asks was part of are shown.</param>
public sealed record IncidentList(
    IReadOnlyList<IncidentLineResponse> Items,
    bool Yours,
    IReadOnlyList<LessonResponse> Lessons,
    IReadOnlyList<LookAskedResponse> Looks
);

/// <summary>A teaching case: no number, no name, no day.</summary>
public sealed record LessonResponse(string WhatWords, string Month, string Words);

public sealed record SeenResponse(Guid Id, Instant? At, string Words, string By, Instant ToldAt);

public sealed record InvolvedResponse(string Name, string Part);

public sealed record ActionResponse(
    Guid Id,
    string Text,
    string Owner,
    bool Mine,
    LocalDate Due,
    bool Late,
    string ShowsBy,
    string? Link,
    bool Ended,
    bool? Done,
    string? EndWords
);

public sealed record PhotoResponse(Guid Id, int Width, int Height, Instant At);

/// <param name="Words">Null once its time is over.</param>
public sealed record InjuryResponse(Guid Id, string Who, string? Words, LocalDate KeptUntil);

/// <param name="Found"><c>nothing</c>, <c>warm</c> or <c>burning</c>; null while nobody has looked.</param>
public sealed record LookResponse(int Minute, Instant At, LookState State, string? Found, string? By, string? Note);

/// <param name="By">A day, such as 2027-05-31.</param>
public sealed record LawResponse(bool? Wanted, string To, string? By, string Number);

/// <param name="Who">Null while nobody has begun it.</param>
public sealed record FireWatchResponse(
    bool Wanted,
    int Minutes,
    string? Who,
    Instant? Began,
    Instant? Ends,
    IReadOnlyList<LookResponse> Looks,
    string HowTo
);

public sealed record ClosingStepResponse(string Name, bool Done, string Says);

/// <summary>What the one who asks may do.</summary>
public sealed record MayResponse(
    bool Investigate,
    bool SetHolds,
    bool EndHolds,
    bool Close,
    bool Reopen,
    bool AddWords,
    bool SeeInjuries,
    bool Teach
);

/// <param name="FilledIn">What came from the record and not from the teller.</param>
/// <param name="AtTheGate">What would have caught it: reasons that stood when it was booked, and when it ran.</param>
public sealed record IncidentResponse(
    Guid Id,
    int Number,
    int Version,
    MachineId? MachineId,
    string Place,
    Instant At,
    Mishap What,
    string WhatWords,
    int Severity,
    IReadOnlyList<string> FilledIn,
    SheetTag? Tag,
    MaterialId? MaterialId,
    string? MaterialName,
    IReadOnlyList<string> AtTheGate,
    ToldFacts Facts,
    string? Damage,
    string? PutOut,
    string? MakerSays,
    string? Lesson,
    decimal? Cost,
    bool FireService,
    bool? Marked,
    LawResponse Law,
    bool Hurt,
    bool CarriedOver,
    IReadOnlyList<SeenResponse> Seen,
    IReadOnlyList<InvolvedResponse> Involved,
    IReadOnlyList<IncidentHoldResponse> Holds,
    IReadOnlyList<CauseResponse> Causes,
    string? CausesNote,
    IReadOnlyList<ActionResponse> Actions,
    IReadOnlyList<PhotoResponse> Photos,
    IReadOnlyList<InjuryResponse> Injuries,
    FireWatchResponse Watch,
    IReadOnlyList<ClosingStepResponse> Closing,
    string? CloseNote,
    Instant? ClosedAt,
    int AtRisk,
    MayResponse May
);
