namespace VelvetGate.Core.Booking;

/// <summary>One reason why a standing booking is no longer open.</summary>
public sealed record RiskReason(string Code, string Text);
