namespace VelvetGate.Core.Training;

/// <summary>What is refused about training: pages, quizzes, practicals, inductions, certificates, each once.</summary>
public static class TrainingProblems
{
    public static readonly Problem HoldRuns = new("hold.runs", ProblemKind.Invalid, "Between 0 and {0} supervised runs.");
    public static readonly Problem HoldConditions = new(
        "hold.conditions",
        ProblemKind.Conflict,
        "A review has no conditions: a steward looks and decides."
    );
    public static readonly Problem HoldConditionsUnmet = new("hold.conditions", ProblemKind.Conflict, "Not yet: {0}.");
    public static readonly Problem InductionPast = new(
        "induction.past",
        ProblemKind.Invalid,
        "It begins in the past. Choose a time to come."
    );
    public static readonly Problem InductionMinutes = new("induction.minutes", ProblemKind.Invalid, "Between {0} minutes and {1} hours.");
    public static readonly Problem InductionPlaces = new(
        "induction.places",
        ProblemKind.Invalid,
        "One trainer takes 1 to {0} learners here."
    );
    public static readonly Problem InductionClosed = new(
        "induction.closed",
        ProblemKind.Invalid,
        "The house is not open for all of that time."
    );
    public static readonly Problem InductionAuthority = new(
        "induction.authority",
        ProblemKind.Invalid,
        "Only a trainer of this machine gives an induction on it."
    );
    public static readonly Problem InductionOff = new("induction.off", ProblemKind.Conflict, "This session is called off.");
    public static readonly Problem InductionBegun = new("induction.begun", ProblemKind.Conflict, "This session has begun.");
    public static readonly Problem InductionBegunToCall = new(
        "induction.begun",
        ProblemKind.Conflict,
        "The session has begun: the roll call says who was there."
    );
    public static readonly Problem InductionSelf = new("induction.self", ProblemKind.Conflict, "You give this session.");
    public static readonly Problem InductionFull = new(
        "induction.full",
        ProblemKind.Conflict,
        "The last place is taken. Look at the next session."
    );
    public static readonly Problem InductionNotYours = new(
        "induction.notYours",
        ProblemKind.Forbidden,
        "This is for its trainer and for stewards."
    );
    public static readonly Problem InductionForOthers = new(
        "induction.notYours",
        ProblemKind.Forbidden,
        "Only a steward plans a session for another trainer."
    );
    public static readonly Problem InductionEarly = new(
        "induction.early",
        ProblemKind.Conflict,
        "The roll is called once the session has begun."
    );
    public static readonly Problem InductionSelfCall = new(
        "induction.selfCall",
        ProblemKind.Forbidden,
        "Nobody calls the roll for themselves."
    );
    public static readonly Problem InductionNoPlace = new(
        "induction.noPlace",
        ProblemKind.Invalid,
        "Somebody named has no place in this session."
    );
    public static readonly Problem QuizUnread = new("quiz.unread", ProblemKind.Conflict, "Read first: {0}.");
    public static readonly Problem QuizCoolDown = new(
        "quiz.coolDown",
        ProblemKind.Conflict,
        "The quiz can be tried again from {0}. Read the explanations meanwhile."
    );
    public static readonly Problem OutsideWrong = new("outside.wrong", ProblemKind.Invalid, "Look at this field again.");
    public static readonly Problem PageTitle = new("page.title", ProblemKind.Invalid, "Give the page a title of at most {0} characters.");
    public static readonly Problem PathStep = new("path.step", ProblemKind.Invalid, "This step cannot stand so.");
    public static readonly Problem PracticalChange = new("practical.change", ProblemKind.Invalid, "Look at this field again.");
    public static readonly Problem PracticalTitleTaken = new(
        "practical.change",
        ProblemKind.Invalid,
        "There is a practical form of that title. Change that one, or choose another title."
    );
    public static readonly Problem PracticalStep = new("practical.step", ProblemKind.Invalid, "There is no such step on this form.");
    public static readonly Problem PracticalNote = new(
        "practical.note",
        ProblemKind.Invalid,
        "The note is longer than {0} characters. Shorten it."
    );
    public static readonly Problem QuestionWrong = new("question.wrong", ProblemKind.Invalid, "Look at this field again.");
    public static readonly Problem QuestionFew = new(
        "question.few",
        ProblemKind.Conflict,
        "A quiz draws {0} questions on “{1}”: add another one first."
    );
    public static readonly Problem QuestionCritical = new(
        "question.critical",
        ProblemKind.Conflict,
        "One question on “{0}” has to be critical."
    );
    public static readonly Problem RepeatDay = new(
        "repeat.day",
        ProblemKind.Invalid,
        "Give the day until which having passed before still counts."
    );
    public static readonly Problem SignOffNote = new(
        "signOff.note",
        ProblemKind.Invalid,
        "Write what you saw the person do, in a sentence."
    );
    public static readonly Problem SignOffSelf = new(
        "signOff.self",
        ProblemKind.Forbidden,
        "Nobody signs themselves off. Ask another trainer."
    );
    public static readonly Problem SignOffAuthority = new(
        "signOff.authority",
        ProblemKind.Forbidden,
        "You do not hold trainer authority for {0} now. Ask a trainer who does."
    );
    public static readonly Problem SignOffPath = new(
        "signOff.path",
        ProblemKind.Invalid,
        "Not done yet: {0}. This house signs when every step before is done."
    );
    public static readonly Problem SignOffSheet = new(
        "signOff.sheet",
        ProblemKind.Invalid,
        "This is signed on its practical form: open it and watch the person work."
    );
    public static readonly Problem PaperDay = new("paper.day", ProblemKind.Invalid, "Give the day on the paper, such as 2026-03-14.");
    public static readonly Problem PaperEvidence = new(
        "paper.evidence",
        ProblemKind.Invalid,
        "Write what the paper is, who signed it, and where it lies."
    );
    public static readonly Problem PaperOver = new(
        "paper.over",
        ProblemKind.Invalid,
        "A certificate of that day ended on {0}. The person is signed off anew."
    );
    public static readonly Problem FoundingTrainers = new(
        "founding.trainers",
        ProblemKind.Conflict,
        "This machine has a trainer: they sign people off."
    );
    public static readonly Problem FoundingTwice = new(
        "founding.trainers",
        ProblemKind.Conflict,
        "This machine has a founding authority already."
    );
    public static readonly Problem FoundingEvidence = new(
        "founding.evidence",
        ProblemKind.Invalid,
        "Write what the authority rests on: the maker’s course, earlier papers, years at such a machine."
    );
    public static readonly Problem FoundingSelf = new(
        "founding.self",
        ProblemKind.Forbidden,
        "Another person confirms it: neither whose authority it is nor who wrote it down."
    );
    public static readonly Problem HoldNone = new("hold.none", ProblemKind.NotFound, "This person holds no such certificate now.");
    public static readonly Problem ReadingStale = new(
        "reading.stale",
        ProblemKind.Stale,
        "This page was changed while you read. Load it again and read what is new."
    );
    public static readonly Problem ReadingWrong = new(
        "reading.wrong",
        ProblemKind.Invalid,
        "That is not what the page says. Look again, then answer."
    );
    public static readonly Problem PageStale = new(
        "page.stale",
        ProblemKind.Stale,
        "Somebody changed this page meanwhile. Look at what it says now; what you typed is kept."
    );
    public static readonly Problem QuizStale = new("quiz.stale", ProblemKind.Stale, "Somebody asked for this meanwhile. Look at it again.");
    public static readonly Problem FoundingMachine = new("founding.machine", ProblemKind.Invalid, "There is no machine “{0}”.");
    public static readonly Problem InductionMachine = new("induction.machine", ProblemKind.Invalid, "There is no machine “{0}”.");
    public static readonly Problem InductionBooked = new(
        "induction.booked",
        ProblemKind.Conflict,
        "The machine is booked for some of that time. Choose another."
    );
    public static readonly Problem InductionOverlap = new(
        "induction.overlap",
        ProblemKind.Conflict,
        "The machine or the trainer has a class then already. Choose another time."
    );
    public static readonly Problem PathUnknown = new("path.unknown", ProblemKind.Invalid, "There is no machine for “{0}”.");
    public static readonly Problem PathStale = new(
        "path.stale",
        ProblemKind.Stale,
        "Somebody changed this path meanwhile. Look at what it says now; what you typed is kept."
    );
    public static readonly Problem PathPlanned = new(
        "path.planned",
        ProblemKind.Conflict,
        "Another path is planned already, from a later day. Wait for it, or change it then."
    );
    public static readonly Problem PracticalChanged = new(
        "practical.changed",
        ProblemKind.Stale,
        "Somebody changed this form meanwhile. Look at what it says now; what you typed is kept."
    );
    public static readonly Problem SignOffUnknownAuthority = new(
        "signOff.unknownAuthority",
        ProblemKind.NotFound,
        "“{0}” is neither a machine nor an add-on here."
    );
    public static readonly Problem PracticalNone = new(
        "practical.none",
        ProblemKind.Invalid,
        "This path ends with a note, not with a practical form."
    );
    public static readonly Problem PracticalEnded = new("practical.ended", ProblemKind.Conflict, "This form is closed. Begin another one.");
    public static readonly Problem PracticalFull = new(
        "practical.full",
        ProblemKind.Invalid,
        "A form holds up to {0} marks. Close this one, and begin another."
    );
    public static readonly Problem PracticalNotYours = new(
        "practical.notYours",
        ProblemKind.Forbidden,
        "This is for the trainer who began it and the person who was watched."
    );
    public static readonly Problem PracticalOfOthers = new(
        "practical.notYours",
        ProblemKind.Forbidden,
        "This is for the person themselves, for trainers and stewards."
    );
    public static readonly Problem PracticalStale = new(
        "practical.stale",
        ProblemKind.Stale,
        "Marks were added meanwhile. Look at the form as it is now, then agree."
    );
    public static readonly Problem PracticalOpen = new("practical.open", ProblemKind.Invalid, "{0}");
    public static readonly Problem QuestionGone = new(
        "question.gone",
        ProblemKind.Stale,
        "Somebody changed or took out this question meanwhile. What you typed is kept."
    );
    public static readonly Problem QuizEnded = new(
        "quiz.ended",
        ProblemKind.Conflict,
        "This attempt has ended. What was answered until then counts."
    );
    public static readonly Problem QuizQuestion = new("quiz.question", ProblemKind.Invalid, "This question is not in your quiz.");
    public static readonly Problem CertificateNotYours = new(
        "certificate.notYours",
        ProblemKind.Forbidden,
        "This is for the person themselves and for staff."
    );
    public static readonly Problem LadderNotYours = new(
        "ladder.notYours",
        ProblemKind.Forbidden,
        "This is for the person themselves, for trainers and stewards."
    );
    public static readonly Problem ReadingUnanswered = new(
        "reading.unanswered",
        ProblemKind.Invalid,
        "Answer the question below the page."
    );
    public static readonly Problem InductionRoll = new(
        "induction.roll",
        ProblemKind.Invalid,
        "Say of each person whether they were there."
    );
    public static readonly Problem FileFormat = new("file.format", ProblemKind.Invalid, "Say csv or json.");
    public static readonly Problem MatrixShow = new("matrix.show", ProblemKind.Invalid, "Say one of {0}.");
    public static readonly Problem MatrixAuthority = new(
        "matrix.authority",
        ProblemKind.Invalid,
        "“{0}” is neither a machine nor an add-on here."
    );
    public static readonly Problem OutsideNotYours = new(
        "outside.notYours",
        ProblemKind.Forbidden,
        "This is for the person themselves and for staff."
    );
    public static readonly Problem QuizAnswer = new(
        "quiz.answer",
        ProblemKind.Invalid,
        "That is no answer to this question. Choose among what is shown."
    );
    public static readonly Problem PageBody = new("page.body", ProblemKind.Invalid, "A page needs words.");
    public static readonly Problem PageCheck = new(
        "page.check",
        ProblemKind.Invalid,
        "Ask one question on what the page says, in at most {0} characters."
    );
    public static readonly Problem PageOptions = new(
        "page.options",
        ProblemKind.Invalid,
        "Give two to {0} answers, one a line, the right one first."
    );
}
