namespace VelvetGate.Core.Gating;

/// <summary>What the post of the sheet says of the settings chosen for it.</summary>
public static partial class Codes
{
    private const string Energy = "energy given over energy needed; limits are house practice";

    public static readonly Rule SettingsDouble = Shut(
        "settings.double",
        Post.Sheet,
        "The setting gives twice the energy that the sheet needs, or more.",
        Energy,
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.SettingsOther],
    };

    /// <summary>Nobody's word lifts it: a test piece on that sheet does, or another setting.</summary>
    public static readonly Rule SettingsHot = Ask(
        "settings.hot",
        Post.Sheet,
        "The setting gives 1.6 times the energy that the sheet needs, or more.",
        Energy,
        changedIn: 3
    ) with
    {
        LiftedBy = LiftedBy.Nobody,
        Remedies = [Remedies.SettingsTest, Remedies.SettingsOther],
        Assumed = Assumption.Proved,
    };

    public static readonly Rule SettingsWarm = Caution(
        "settings.warm",
        Post.Sheet,
        "The setting gives 1.25 times the energy that the sheet needs, or more.",
        Energy,
        changedIn: 3
    );

    public static readonly Rule SettingsWeak = Caution(
        "settings.weak",
        Post.Sheet,
        "The setting gives four fifths of the energy that the sheet needs, or less.",
        Energy,
        changedIn: 3
    );

    public static readonly Rule SettingsFlame = Ask(
        "settings.flame",
        Post.Sheet,
        "A flame stayed with the setting before.",
        "what burned once is looked at before it runs again (house practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.SettingsOther],
    };

    public static readonly Rule SettingsUnknown = Shut(
        "settings.unknown",
        Post.Sheet,
        "The setting is not in the library for this machine, material and work.",
        "unknown is never clear",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.SettingsOther],
    };

    public static readonly Rule SettingsUntested = Caution(
        "settings.untested",
        Post.Sheet,
        "Nobody has a clean result of this on the machine, or of the setting chosen.",
        "a test piece comes before a job (common practice)",
        changedIn: 3
    ) with
    {
        Remedies = [Remedies.SettingsTest],
    };

    public static readonly Rule SettingsAfterService = Caution(
        "settings.afterService",
        Post.Sheet,
        "It was tested before the machine’s optics, tube or alignment were touched.",
        "a service changes focus, power and kerf (common practice)",
        changedIn: 6
    ) with
    {
        Remedies = [Remedies.SettingsTest],
    };
}
