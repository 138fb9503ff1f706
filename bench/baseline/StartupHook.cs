using System.Reflection;
using System.Runtime.Loader;

/// <summary>Lets the server find this assembly, which is no part of it: DOTNET_STARTUP_HOOKS names its path.</summary>
internal static class StartupHook
{
    public static void Initialize() => AssemblyLoadContext.Default.Resolving += (_, name) =>
        name.Name == "VelvetGate.Bench.Baseline" ? Assembly.GetExecutingAssembly() : null;
}
