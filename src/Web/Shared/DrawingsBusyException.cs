namespace VelvetGate.Web.Shared;

/// <summary>So much is asked of the bench that more would only wait.</summary>
public sealed class DrawingsBusyException() : Exception("Too many drawings are being read. Wait a few seconds and try again.")
{
    public const int RetryAfterSeconds = 5;
}
