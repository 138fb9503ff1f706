namespace VelvetGate.Core.House;

/// <summary>What a look at an item of fire kit can find wrong.</summary>
public enum KitFault
{
    Missing,
    Seal,
    Date,
    Damaged,
}

public static class KitFaults
{
    /// <param name="word">As the record has it.</param>
    public static KitFault Of(string word) => Enum.Parse<KitFault>(word, ignoreCase: true);

    /// <summary>In words that follow “is”: “not there, damaged”. Empty where nothing is wrong.</summary>
    public static string Says(IEnumerable<KitFault> wrong) =>
        string.Join(
            ", ",
            wrong
                .Distinct()
                .Order()
                .Select(w =>
                    w switch
                    {
                        KitFault.Missing => "not there",
                        KitFault.Seal => "not sealed any more",
                        KitFault.Date => "out of date",
                        _ => "damaged",
                    }
                )
        );
}
