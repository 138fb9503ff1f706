namespace VelvetGate.Web.Shared;

/// <summary>What any request may be refused for, before a room is asked, each once.</summary>
public static class RequestProblems
{
    public static readonly Problem SignInAgain = new(
        "signIn.again",
        ProblemKind.Forbidden,
        "Give your password once more: this gives or takes power, or cannot be undone."
    );
    public static readonly Problem RequestFormMalformed = new(
        "request.malformed",
        ProblemKind.Invalid,
        "The form data cannot be read. Send it again."
    );
    public static readonly Problem RequestMalformed = new("request.malformed", ProblemKind.Invalid, "{0}");
    public static readonly Problem DatabaseAway = new(
        "database.away",
        ProblemKind.Away,
        "The database does not answer. Nothing was changed; try again in a moment."
    );
    public static readonly Problem DiskFull = new(
        "disk.full",
        ProblemKind.Full,
        "The disk of the house is full. Nothing was changed. Tell the keeper."
    );
    public static readonly Problem BenchBusy = new("bench.busy", ProblemKind.TooMany, "{0}");
    public static readonly Problem RequestValue = new(
        "request.value",
        ProblemKind.Invalid,
        "A value holds a character or a size that cannot be kept. Write it otherwise."
    );
    public static readonly Problem AddressNul = new(
        "request.value",
        ProblemKind.Invalid,
        "The address holds a character that no text can hold."
    );
    public static readonly Problem RequestNul = new(
        "request.value",
        ProblemKind.Invalid,
        "A text holds a character that no text can hold (U+0000). Type it again."
    );
    public static readonly Problem Unexpected = new(
        "unexpected",
        ProblemKind.Unexpected,
        "Something went wrong. Nothing was changed. Tell a keeper this number: {0}."
    );
    public static readonly Problem RequestTooLarge = new(
        "request.tooLarge",
        ProblemKind.TooLarge,
        "That is more than {0} kB. Shorten it, or send it in parts."
    );
    public static readonly Problem SchemaUnknown = new("schema.unknown", ProblemKind.Away, "{0}");
    public static readonly Problem SecondFactorSet = new(
        "secondFactor.set",
        ProblemKind.Invalid,
        "You have one already. Take it off first, then set up the new phone."
    );
    public static readonly Problem SecondFactorCode = new(
        "secondFactor.code",
        ProblemKind.Invalid,
        "That is not the code the phone shows now. Wait for the next one and type it; check the phone’s clock."
    );
    public static readonly Problem SignInWrong = new(
        "signIn.wrong",
        ProblemKind.Unauthenticated,
        "Name or password is not right, or the account is closed. Try again, or ask a keeper."
    );
    public static readonly Problem SignInSecondFactor = new(
        "signIn.secondFactor",
        ProblemKind.Unauthenticated,
        "Type the six digits that your phone shows now, or a spare code from paper."
    );
    public static readonly Problem SignInSecondFactorWrong = new(
        "signIn.secondFactor",
        ProblemKind.Unauthenticated,
        "That code is not right, or was used before. Wait for the next one and type it."
    );
    public static readonly Problem SignInTooMany = new(
        "signIn.tooMany",
        ProblemKind.TooMany,
        "Too many failed tries. Wait {0}, or ask a keeper to unlock the account."
    );
    public static readonly Problem SignInGone = new("signIn.gone", ProblemKind.Unauthenticated, "This account is closed. Ask a keeper.");
    public static readonly Problem RequestInvalid = new("request.invalid", ProblemKind.Invalid, "Look at the fields that are named.");
    public static readonly Problem Antiforgery = new(
        "antiforgery",
        ProblemKind.Invalid,
        "The page is older than your sign-in. Load it again; what you typed is kept."
    );
    public static readonly Problem SignInNeeded = new("signIn.needed", ProblemKind.Unauthenticated, "Sign in first.");
    public static readonly Problem Forbidden = new("forbidden", ProblemKind.Forbidden, "You do not hold the role for this.");
    public static readonly Problem Method = new("method", ProblemKind.Method, "This address does not take that method.");
    public static readonly Problem ContentType = new(
        "contentType",
        ProblemKind.Unsupported,
        "Send JSON, or multipart form data for files."
    );
    public static readonly Problem Error = new("error", ProblemKind.Invalid, "The request was refused.");
    public static readonly Problem SecondFactorSetUp = new(
        "secondFactor.setUp",
        ProblemKind.Forbidden,
        "This house asks a code from a phone of your role. Set it up first: it takes a minute."
    );
    public static readonly Problem NothingHere = new("notFound", ProblemKind.NotFound, "There is nothing here.");
}
