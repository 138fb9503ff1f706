namespace VelvetGate.Core.Kernel;

/// <summary>How hard one post is. The order is the strictness.</summary>
public enum Standing
{
    Clear,
    Caution,
    Ask,
    Shut,
}
