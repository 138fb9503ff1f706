using VelvetGate.Cli;
using VelvetGate.Store.Db;

try
{
    return await Run(args);
}
catch (SchemaException e)
{
    Console.Error.WriteLine(e.Message);
    return 3;
}
catch (UsageException e)
{
    Console.Error.WriteLine(e.Message);
    return 2;
}

static async Task<int> Run(string[] args) =>
    args switch
    {
        ["calc", .. var rest] => CalcCommand.Run(rest),
        ["time", .. var rest] => TimeCommand.Run(rest),
        ["testpiece", .. var rest] => TestPieceCommand.Run(rest),
        ["check", .. var rest] => CheckCommand.Run(rest),
        ["verify-ledger", .. var rest] => await RecordCommands.Verify(rest),
        ["replay", .. var rest] => await RecordCommands.Replay(rest),
        ["backup", .. var rest] => await BackupCommands.Backup(rest),
        ["check-backup", .. var rest] => await BackupCommands.Check(rest),
        ["restore", .. var rest] => await BackupCommands.Restore(rest),
        ["make-keeper", var id] => await DatabaseCommands.MakeKeeper(id),
        ["create-db", .. var rest] => await DatabaseCommands.Create(rest),
        ["drop-db", var name] => await DatabaseCommands.Drop(name),
        ["migrate", .. var rest] => await DatabaseCommands.Migrate(rest),
        ["seed", .. var rest] => await DatabaseCommands.Seed(rest),
        ["wake-demo", .. var rest] => await DatabaseCommands.WakeDemo(rest),
        _ => Usage(),
    };

static int Usage()
{
    Console.Error.WriteLine(
        """
        vg check FILE|FOLDER --machine ID --material ID --thickness MM [--json] [--colours MAP] [--all-cut] [--bed WxH] [--kerf MM]
        vg time FILE --speed MM/S [--accel MM/S2] [--corner MM/S] [--rapid MM/S] [--machine ID] [--colours MAP] [--json]
        vg testpiece cut|engrave|kerf|focus|joint --machine ID --material ID --thickness MM --out FILE.svg [--json]
        vg calc mismatch | energy | rotary | kerf | slot | sag | spot | hinge | air | eyewear [--field value …] [--unit mm|in] [--json]
        vg calc rate --events N --hours H [--against-events N --against-hours H]
        vg verify-ledger [--anchor SEQ:HASH]
        vg replay ID
        vg backup FILE | check-backup FILE | restore FILE --database NAME
        vg make-keeper PERSON-ID
        vg create-db | drop-db NAME | migrate [--wake-demo [--now INSTANT] [--stand-ins FILE]] | seed [--now INSTANT]
        vg wake-demo [--now INSTANT] [--stand-ins FILE | --no-stand-ins]
        """
    );
    return 2;
}
