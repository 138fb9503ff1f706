namespace VelvetGate.Tests.Support;

/// <summary>Finds files of the checkout from wherever the tests run.</summary>
public static class Repo
{
    public static string Path(params string[] parts)
    {
        var here = new DirectoryInfo(AppContext.BaseDirectory);
        while (here is not null && !File.Exists(System.IO.Path.Combine(here.FullName, "VelvetGate.slnx")))
            here = here.Parent;
        return System.IO.Path.Combine([here?.FullName ?? throw new InvalidOperationException("No checkout above the tests."), .. parts]);
    }
}
