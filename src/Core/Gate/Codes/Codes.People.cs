using VelvetGate.Core.House;

namespace VelvetGate.Core.Gating;

/// <summary>What the posts person and training can say.</summary>
public static partial class Codes
{
    public static readonly Rule PersonInactive = Shut(
        "person.inactive",
        Post.Person,
        "The account is not open for the whole time.",
        HouseRule
    ) with
    {
        Remedies = [Remedies.PersonOpen],
    };

    public static readonly Rule PersonPaused = Shut("person.paused", Post.Person, "The person is paused.", "a steward's pause") with
    {
        Remedies = [Remedies.PersonRelease],
        Assumed = Assumption.Released,
    };

    public static readonly Rule PersonElsewhere = Shut(
        "person.elsewhere",
        Post.Person,
        "The person attends, teaches or supervises something else then.",
        "one person attends one machine at a time (common practice)"
    ) with
    {
        Remedies = [Remedies.TimeOther],
    };

    public static readonly Rule PersonAgreement = Shut(
        "person.agreement",
        Post.Person,
        "The house agreement as it is now is not signed.",
        HouseRule
    ) with
    {
        Remedies = [Remedies.PersonSign],
        Settings = [nameof(HouseRules.Agreement)],
        Assumed = Assumption.Signed,
    };

    public static readonly Rule PersonTooYoung = Shut("person.tooYoung", Post.Person, "Younger than the house lets attend.", HouseRule) with
    {
        Settings = [nameof(HouseRules.AttendFromAge)],
    };

    public static readonly Rule PersonUnderAge = Ask(
        "person.underAge",
        Post.Person,
        "Too young to run a laser alone, and no supervisor is named.",
        HouseRule
    ) with
    {
        Remedies = [Remedies.TrainingSupervisor],
        Settings = [nameof(HouseRules.AloneFromAge)],
    };

    public static readonly Rule PersonWithAdult = Caution(
        "person.withAdult",
        Post.Person,
        "The booked supervisor stays beside the machine.",
        HouseRule
    ) with
    {
        Settings = [nameof(HouseRules.AloneFromAge)],
    };

    public static readonly Rule PersonNoConsent = Shut(
        "person.noConsent",
        Post.Person,
        "No guardian’s consent covers this machine for the whole time.",
        "a guardian's dated consent under 18 (house rule)"
    ) with
    {
        Remedies = [Remedies.PersonConsent],
        Settings = [nameof(HouseRules.GuardianConsent)],
    };

    public static readonly Rule PersonUnknown = Shut(
        "person.unknown",
        Post.Person,
        "Something about the person could not be loaded.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.HouseLook],
    };

    public static readonly Rule TrainingNone = Shut(
        "training.none",
        Post.Training,
        "No certificate for the machine.",
        "only inducted people (common practice)"
    ) with
    {
        Remedies = [Remedies.TrainingSignOff],
        Assumed = Assumption.SignedOff,
    };

    public static readonly Rule TrainingLapsed = Shut("training.lapsed", Post.Training, "The certificate ended.", HouseRule) with
    {
        Remedies = [Remedies.TrainingSignOff],
        Settings = [nameof(HouseRules.CertificateMonths)],
        Assumed = Assumption.SignedOff,
    };

    public static readonly Rule TrainingIdle = Shut(
        "training.idle",
        Post.Training,
        "Nothing was run on the machine for too long.",
        HouseRule
    ) with
    {
        Remedies = [Remedies.TrainingSupervisor],
        Settings = [nameof(HouseRules.IdleLapseDays)],
        Assumed = Assumption.Practised,
    };

    public static readonly Rule TrainingAddOn = Shut(
        "training.addOn",
        Post.Training,
        "No certificate for an add-on that the work needs.",
        "add-ons are signed separately (common practice)"
    ) with
    {
        Remedies = [Remedies.TrainingSignOff],
        Assumed = Assumption.SignedOff,
    };

    public static readonly Rule TrainingSupervised = Caution(
        "training.supervised",
        Post.Training,
        "A supervised run: the supervisor stays throughout.",
        "first runs supervised (common practice)"
    ) with
    {
        Settings = [nameof(HouseRules.SupervisedRuns)],
    };

    public static readonly Rule TrainingFounding = Caution(
        "training.founding",
        Post.Training,
        "The certificate is a founding one that nobody has confirmed.",
        "a first authority is confirmed or shown as unconfirmed (house rule)"
    ) with
    {
        Remedies = [Remedies.TrainingConfirm],
    };

    public static readonly Rule TrainingSuspended = Shut(
        "training.suspended",
        Post.Training,
        "The certificate is suspended.",
        "a suspended certificate (house practice)"
    ) with
    {
        Remedies = [Remedies.TrainingReinstate],
        Assumed = Assumption.Reinstated,
    };

    public static readonly Rule TrainingReview = Ask(
        "training.review",
        Post.Training,
        "The certificate is under review.",
        "a certificate that is looked at again (house practice)"
    ) with
    {
        Remedies = [Remedies.TrainingReview],
        Assumed = Assumption.Reinstated,
    };

    public static readonly Rule TrainingUnread = Shut(
        "training.unread",
        Post.Training,
        "Something was changed and has to be read, answered or shown first.",
        "the current procedure is read (common practice)"
    ) with
    {
        Remedies = [Remedies.TrainingRead],
        Assumed = Assumption.Read,
    };

    public static readonly Rule TrainingReadBy = Caution(
        "training.readBy",
        Post.Training,
        "Something was changed and has to be done by a day to come.",
        "the current procedure is read; until its day the one before counts (house practice)"
    );

    public static readonly Rule TrainingUnknown = Shut(
        "training.unknown",
        Post.Training,
        "The certificates could not be loaded.",
        "unknown is never clear"
    ) with
    {
        Remedies = [Remedies.HouseLook],
    };
}
