using NodaTime;
using VelvetGate.Core.House;
using VelvetGate.Core.Settings;

namespace VelvetGate.Web.Settings;

/// <param name="Id">Client-made: the same again changes nothing.</param>
/// <param name="ThicknessMm">In mm; or <paramref name="Thickness"/> as it was typed, with any unit.</param>
/// <param name="Watts">Delivered; left out, the machine's power times the per cent.</param>
/// <param name="SpeedMmPerS">In mm/s; or <paramref name="Speed"/> as it was typed, such as 15 in/min.</param>
/// <param name="Pitch">Between two lines of engraving, as typed.</param>
/// <param name="FocusOffset">Below the face, as typed; with a minus above it.</param>
/// <param name="Mask"><c>none</c>, <c>damp</c> or <c>dry</c> tape.</param>
/// <param name="MaskOf">What the tape is made of.</param>
/// <param name="Origin"><c>technician</c>, <c>member</c>, <c>maker</c> or <c>firstGuess</c>; a member's where it is left out.</param>
public sealed record SettingRequest(
    string? Id = null,
    string? MachineId = null,
    string? MaterialId = null,
    decimal? ThicknessMm = null,
    string? Thickness = null,
    string? Unit = null,
    string? Operation = null,
    decimal? PowerPercent = null,
    decimal? Watts = null,
    decimal? SpeedMmPerS = null,
    string? Speed = null,
    int? Passes = null,
    decimal? FrequencyHz = null,
    string? Pitch = null,
    IReadOnlyList<decimal>? Offsets = null,
    string? FocusOffset = null,
    int? FanLevel = null,
    bool AirAssist = true,
    string? Fixture = null,
    string? Mask = null,
    string? MaskOf = null,
    string? Origin = null,
    string? Note = null
);

/// <param name="OriginWords">Such as a technician’s entry.</param>
/// <param name="Ratio">Of a cut: thickness it is for over thickness wished for, three decimals, cut off.</param>
/// <param name="Standing">What that ratio means; null where there is none.</param>
/// <param name="Fits">For the same operation and about the same thickness: a run may name it.</param>
/// <param name="WhyNot">Why it is not suggested; null where it could be.</param>
/// <param name="Results">How runs with it came out since the machine's optics were last touched.</param>
/// <param name="MayEnd">Whoever asks may take it out.</param>
public sealed record SettingResponse(
    Guid Id,
    int Number,
    MachineId MachineId,
    MaterialId MaterialId,
    decimal ThicknessMm,
    Operation Operation,
    decimal PowerPercent,
    decimal Watts,
    decimal SpeedMmPerS,
    int Passes,
    decimal JPerMm,
    decimal? FrequencyHz,
    decimal? PitchMm,
    IReadOnlyList<decimal> Offsets,
    decimal FocusOffsetMm,
    int? FanLevel,
    bool AirAssist,
    string Fixture,
    Mask Mask,
    string MaskOf,
    SettingOrigin Origin,
    string OriginWords,
    string Note,
    string By,
    Instant At,
    string? Ratio,
    Standing? Standing,
    string? Code,
    string? Says,
    bool Fits,
    string? WhyNot,
    bool Tested,
    string Results,
    bool MayEnd
);

public sealed record SettingSuggestionResponse(Guid Id, IReadOnlyList<string> Reasons);

/// <param name="From">The entry it is scaled from; null where it is from the table of energies.</param>
public sealed record GuessResponse(decimal Watts, decimal PowerPercent, decimal SpeedMmPerS, int Passes, Guid? From, string Working);

/// <param name="Items">All of that machine and material; what could be suggested first.</param>
/// <param name="NotPermitted">Why there is no setting for this at all; null where it may be run.</param>
/// <param name="Suggestion">Null where nothing fits; then there is a guess.</param>
/// <param name="Next">If it comes out otherwise: what then.</param>
/// <param name="MayAdd">Whoever asks may add one.</param>
public sealed record SettingList(
    decimal ThicknessMm,
    IReadOnlyList<SettingResponse> Items,
    string? NotPermitted,
    SettingSuggestionResponse? Suggestion,
    GuessResponse? Guess,
    IReadOnlyList<NextStep> Next,
    bool MayAdd,
    bool MayAddTechnicians
);
