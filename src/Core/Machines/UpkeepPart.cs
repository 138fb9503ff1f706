namespace VelvetGate.Core.Machines;

/// <summary>What of a machine or its room a task of upkeep is about.</summary>
public enum UpkeepPart
{
    Lens,
    Mirrors,
    Nozzle,
    Bed,
    Airflow,

    /// <summary>The particle stage of a filter.</summary>
    Filter,

    /// <summary>The carbon stage, which takes the smell: spent at full airflow, too.</summary>
    Carbon,
    Duct,
    Coolant,
    Interlocks,
    Electrical,
    FireKit,
    Other,
}

/// <summary>What a fault does to whoever wants to run.</summary>
public enum FaultStanding
{
    /// <summary>It waits for a repairer, and keeps nobody from running.</summary>
    None,

    /// <summary>Run, with what is said of it in mind.</summary>
    Caution,

    /// <summary>A steward decides.</summary>
    Asks,

    /// <summary>Nothing runs until the machine is returned to service.</summary>
    Stops,
}
