namespace VelvetGate.Core.People;

/// <summary>What is refused about people, roles, links and conduct, each once.</summary>
public static class PeopleProblems
{
    public static readonly Problem ConductSelf = new(
        "conduct.self",
        ProblemKind.Invalid,
        "Nobody writes an entry about themselves. Ask another steward."
    );
    public static readonly Problem AppealInvolved = new(
        "appeal.involved",
        ProblemKind.Forbidden,
        "An appeal is heard by somebody who was not involved: neither whose it is nor who wrote the entry."
    );
    public static readonly Problem InviteSelf = new("invite.self", ProblemKind.Forbidden, "Nobody agrees to their own link.");
    public static readonly Problem InviteSingleHanded = new(
        "invite.singleHanded",
        ProblemKind.Forbidden,
        "This house has no second keeper and no countersigner: the link waits {0:0} hours, and the record says you decided alone."
    );
    public static readonly Problem EraseSelf = new("erase.self", ProblemKind.Conflict, "Nobody erases themselves. Ask another keeper.");
    public static readonly Problem EraseLegalHold = new(
        "erase.legalHold",
        ProblemKind.Conflict,
        "A legal hold keeps these details. End the hold first."
    );
    public static readonly Problem EraseOpen = new("erase.open", ProblemKind.Conflict, "Close the account first: give it an end date.");
    public static readonly Problem EraseOwns = new("erase.owns", ProblemKind.Conflict, "Hand over first: {0}.");
    public static readonly Problem EraseRetention = new(
        "erase.retention",
        ProblemKind.Conflict,
        "House rules keep these details for {0} months: until {1}."
    );
    public static readonly Problem RoleSelf = new(
        "role.self",
        ProblemKind.Forbidden,
        "Nobody gives a role to themselves. Ask another keeper."
    );
    public static readonly Problem RoleMachine = new(
        "role.machine",
        ProblemKind.Invalid,
        "Trainer and repair authority are for one machine: name it."
    );
    public static readonly Problem RoleUnknownMachine = new("role.machine", ProblemKind.Invalid, "There is no machine “{0}”.");
    public static readonly Problem RoleUntil = new(
        "role.until",
        ProblemKind.Invalid,
        "The end lies in the future. Leave it empty for no end."
    );
    public static readonly Problem RoleTrainer = new(
        "role.trainer",
        ProblemKind.Forbidden,
        "A trainer for that machine passes the authority on. The first one is a founding sign-off."
    );
    public static readonly Problem RoleKeeper = new("role.keeper", ProblemKind.Forbidden, "A keeper gives this role.");
    public static readonly Problem PersonSignInTaken = new(
        "person.signInTaken",
        ProblemKind.Invalid,
        "Somebody has that sign-in name already. Choose another."
    );
    public static readonly Problem ConsentSelf = new(
        "consent.self",
        ProblemKind.Invalid,
        "Nobody writes down their own guardian’s consent."
    );
    public static readonly Problem ConsentMachine = new(
        "consent.machine",
        ProblemKind.Invalid,
        "One of these machines is not in this house."
    );
    public static readonly Problem PersonUnknownId = new("person.unknownId", ProblemKind.NotFound, "There is no member “{0}”.");
    public static readonly Problem RoleHeld = new("role.held", ProblemKind.Invalid, "They hold that role already.");
    public static readonly Problem ConductMachine = new("conduct.machine", ProblemKind.NotFound, "There is no such machine.");
    public static readonly Problem AppealTwice = new("appeal.twice", ProblemKind.Conflict, "An appeal against this is on record already.");
    public static readonly Problem AppealHeard = new("appeal.heard", ProblemKind.Conflict, "This appeal has been heard.");
    public static readonly Problem InviteOver = new(
        "invite.over",
        ProblemKind.Invalid,
        "This link or code was used, has ended, or was never made. Ask a keeper for a new one."
    );
    public static readonly Problem InviteOfClosedAccount = new("invite.over", ProblemKind.Invalid, "The account is closed. Ask a keeper.");
    public static readonly Problem InviteWaits = new(
        "invite.waits",
        ProblemKind.Invalid,
        "A second keeper, or the countersigner, has to agree first. Ask them."
    );
    public static readonly Problem PauseSelf = new("pause.self", ProblemKind.Invalid, "Nobody pauses themselves; ask another steward.");
    public static readonly Problem PauseUntil = new(
        "pause.until",
        ProblemKind.Invalid,
        "The end of a pause lies in the future. Leave it empty to pause until released."
    );
    public static readonly Problem PauseUntilUnread = new(
        "pause.until",
        ProblemKind.Invalid,
        "Give the end with its offset, such as 2026-12-01T10:00:00Z, or leave it empty."
    );
    public static readonly Problem PasswordInvite = new(
        "password.invite",
        ProblemKind.Invalid,
        "Nobody sets somebody else’s password. Leave it out: the answer has a link by which they set their own."
    );
    public static readonly Problem AccountSelf = new(
        "account.self",
        ProblemKind.Invalid,
        "Nobody ends their own account. Ask another keeper."
    );
    public static readonly Problem PasswordWeak = new("password.weak", ProblemKind.Invalid, "{0}");
    public static readonly Problem ConductNotYours = new(
        "conduct.notYours",
        ProblemKind.Forbidden,
        "This is for the person themselves and for stewards."
    );
    public static readonly Problem AppealText = new("appeal.text", ProblemKind.Invalid, "Write why it should be looked at again.");
    public static readonly Problem AppealLong = new("appeal.text", ProblemKind.Invalid, "That is longer than {0} characters. Shorten it.");
    public static readonly Problem PasswordWrong = new("password.wrong", ProblemKind.Invalid, "That is not your password now.");
    public static readonly Problem PasswordOfNoAccount = new("password.wrong", ProblemKind.Invalid, "This account has no sign-in name.");
    public static readonly Problem PersonField = new("person.field", ProblemKind.Invalid, "Look at this field again.");
    public static readonly Problem SecondFactorSelf = new(
        "secondFactor.self",
        ProblemKind.Invalid,
        "Nobody takes their own off here. Use a spare code, or ask another keeper."
    );
    public static readonly Problem RoleLastKeeper = new(
        "role.lastKeeper",
        ProblemKind.Conflict,
        "This is the last keeper whose role and account have no end. Give the role to somebody else, without an end, first."
    );
}
