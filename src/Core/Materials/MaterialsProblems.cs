namespace VelvetGate.Core.Materials;

/// <summary>What is refused about materials, rulings and sheets, each once.</summary>
public static class MaterialsProblems
{
    public static readonly Problem ChlorideValue = new("chloride.value", ProblemKind.Invalid, "Give a number above zero.");
    public static readonly Problem DensityReading = new("density.reading", ProblemKind.Invalid, "Give a number above zero.");
    public static readonly Problem DensityUncertainty = new(
        "density.uncertainty",
        ProblemKind.Invalid,
        "Say how far off it may be: above zero, and less than the reading itself."
    );
    public static readonly Problem DensityNotPlain = new(
        "density.notPlain",
        ProblemKind.Invalid,
        "Foamed, filled, coated or layered stock: its weight says nothing of what it is made of. Only papers can clear it."
    );
    public static readonly Problem RulingNever = new(
        "ruling.never",
        ProblemKind.Invalid,
        "This is never allowed, and no house can relax that. Leave it at never."
    );
    public static readonly Problem RulingPolycarbonate = new(
        "ruling.polycarbonate",
        ProblemKind.Invalid,
        "This house does not offer polycarbonate. A keeper changes the rule first, with its reason."
    );
    public static readonly Problem RulingSelf = new(
        "ruling.self",
        ProblemKind.Forbidden,
        "Nobody agrees to their own proposal: another steward or the countersigner does."
    );
    public static readonly Problem RulingRole = new(
        "ruling.role",
        ProblemKind.Forbidden,
        "A steward or the countersigner agrees to a milder ruling."
    );
    public static readonly Problem RequestSelf = new(
        "request.self",
        ProblemKind.Forbidden,
        "Nobody answers their own request: another steward does."
    );
    public static readonly Problem SheetSelf = new(
        "sheet.self",
        ProblemKind.Forbidden,
        "Nobody clears their own sheet: another steward does."
    );
    public static readonly Problem SheetSelfDecided = new(
        "sheet.self",
        ProblemKind.Forbidden,
        "Nobody decides on their own sheet: another steward does."
    );
    public static readonly Problem SheetIncident = new(
        "sheet.incident",
        ProblemKind.Conflict,
        "Incident {0} holds this sheet. It is let go on the page of the incident."
    );
    public static readonly Problem SheetQuarantined = new(
        "sheet.quarantined",
        ProblemKind.Conflict,
        "It is in quarantine. Look into the report first, and end the quarantine with a reason."
    );
    public static readonly Problem SheetRetired = new("sheet.retired", ProblemKind.Conflict, "It is used up.");
    public static readonly Problem SheetNever = new(
        "sheet.never",
        ProblemKind.Conflict,
        "This material is never allowed; no clearing can change that. Quarantine the sheet."
    );
    public static readonly Problem SheetBanned = new(
        "sheet.banned",
        ProblemKind.Invalid,
        "The house bans it, or these machines cannot do it. Change the ruling first, with its reason."
    );
    public static readonly Problem SheetOffcut = new(
        "sheet.offcut",
        ProblemKind.Invalid,
        "An offcut is smaller than the sheet it comes from. Measure again."
    );
    public static readonly Problem SheetsMany = new("sheets.many", ProblemKind.Invalid, "More than {0} sheets. Split the file.");
    public static readonly Problem RequestMany = new(
        "request.many",
        ProblemKind.Invalid,
        "{0} of your requests wait already. Talk to a steward, or withdraw one."
    );
    public static readonly Problem RequestMaterial = new(
        "request.material",
        ProblemKind.Invalid,
        "Choose the material of the list that it is."
    );
    public static readonly Problem RequestName = new("request.name", ProblemKind.Invalid, "Give it a name with letters.");
    public static readonly Problem RequestNameTaken = new(
        "request.name",
        ProblemKind.Invalid,
        "A material of that name is on the list already. Say that it is that one, or give another name."
    );
    public static readonly Problem RulingSame = new(
        "ruling.same",
        ProblemKind.Invalid,
        "That is what holds already; nothing would change."
    );
    public static readonly Problem SheetMaterial = new("sheet.material", ProblemKind.Invalid, "Choose the material that it was sold as.");
    public static readonly Problem SheetFiles = new("sheet.files", ProblemKind.Invalid, "A sheet keeps at most {0} files.");
    public static readonly Problem FormatBad = new("format.bad", ProblemKind.Invalid, "Say csv or json.");
    public static readonly Problem OperationBad = new("operation.bad", ProblemKind.Invalid, "Say cut, score or engrave.");
    public static readonly Problem PaperBad = new("paper.bad", ProblemKind.Invalid, "Say a4 or a3.");
    public static readonly Problem VersionMissing = new("version.missing", ProblemKind.Invalid, "Send the version that you read.");
    public static readonly Problem RequestNotYours = new(
        "request.notYours",
        ProblemKind.Forbidden,
        "This is for the person who asked, and for stewards."
    );
    public static readonly Problem FileKind = new(
        "file.kind",
        ProblemKind.Unsupported,
        "Evidence is a PDF, PNG or JPEG file, whatever its name says. Photograph or print it to one of these."
    );
    public static readonly Problem FilePicture = new(
        "file.picture",
        ProblemKind.Unsupported,
        "This picture cannot be read to its end, or has more pixels than are taken. Take it again, or send it as PDF."
    );
    public static readonly Problem SheetStock = new("sheet.stock", ProblemKind.Forbidden, "Stewards register the house’s own stock.");
    public static readonly Problem SheetNotYours = new(
        "sheet.notYours",
        ProblemKind.Forbidden,
        "This is for the person who brought the sheet, and for staff."
    );
    public static readonly Problem LabelsTags = new(
        "labels.tags",
        ProblemKind.Invalid,
        "Give between 1 and {0} tags, with commas between."
    );
    public static readonly Problem LabelsSkip = new("labels.skip", ProblemKind.Invalid, "Between 0 and {0} labels are used already.");
    public static readonly Problem SheetsCell = new("sheets.cell", ProblemKind.Invalid, "Look at this cell again.");
    public static readonly Problem RulingsCell = new("rulings.cell", ProblemKind.Invalid, "Look at this cell again.");
    public static readonly Problem RulingEmpty = new(
        "ruling.empty",
        ProblemKind.Invalid,
        "Give at least one range. Without any, the gate is shut for want of a ruling."
    );
    public static readonly Problem RulingRange = new("ruling.range", ProblemKind.Invalid, "A range begins between 0 and {0:0} mm.");
    public static readonly Problem RulingOverlap = new(
        "ruling.overlap",
        ProblemKind.Invalid,
        "Two ranges speak of {0}. Limits are inclusive: let one end before the next begins."
    );
    public static readonly Problem RulingHazard = new(
        "ruling.hazard",
        ProblemKind.Invalid,
        "Say the hazard in plain words: people read it at the machine."
    );
    public static readonly Problem RulingLong = new("ruling.long", ProblemKind.Invalid, "Keep it to {0} characters.");
    public static readonly Problem RulingReason = new("ruling.reason", ProblemKind.Invalid, "“{0}” is no reason code. Known are {1}.");
}
