namespace VelvetGate.Web.Shared;

/// <summary>
/// What somebody who looks after the server wants to see: sign-ins, failures, refusals. Its category is VelvetGate.Security; it holds no
/// passwords and no codes.
/// </summary>
public sealed partial class SecurityLog(ILoggerFactory loggers)
{
    private readonly ILogger _log = loggers.CreateLogger("VelvetGate.Security");

    public void SignedIn(PersonId person, HttpContext http) => SignedIn(_log, person.Value, Address(http));

    public void SignInFailed(string name, HttpContext http) => SignInFailed(_log, Plain(name), Address(http));

    public void TooMany(string name, HttpContext http) => TooMany(_log, Plain(name), Address(http));

    public void SessionsEnded(PersonId person, int count) => SessionsEnded(_log, person.Value, count);

    public void PasswordChanged(PersonId person) => PasswordChanged(_log, person.Value);

    public void SecondFactor(PersonId person, string what) => SecondFactor(_log, person.Value, what);

    public void Forbidden(string? person, HttpContext http) =>
        Forbidden(_log, person ?? "nobody signed in", http.Request.Method, Plain(http.Request.Path), Address(http));

    private static string Address(HttpContext http) => http.Connection.RemoteIpAddress?.ToString() ?? "no address";

    /// <summary>What somebody typed must not pass for a line of its own.</summary>
    private static string Plain(string text) => new([.. text.Take(100).Select(c => char.IsControl(c) ? '?' : c)]);

    [LoggerMessage(Level = LogLevel.Information, Message = "Signed in: {Person} from {Address}")]
    private static partial void SignedIn(ILogger log, string person, string address);

    [LoggerMessage(Level = LogLevel.Warning, Message = "Sign-in failed: “{Name}” from {Address}")]
    private static partial void SignInFailed(ILogger log, string name, string address);

    [LoggerMessage(Level = LogLevel.Warning, Message = "Sign-in held off after too many failures: “{Name}” from {Address}")]
    private static partial void TooMany(ILogger log, string name, string address);

    [LoggerMessage(Level = LogLevel.Information, Message = "Sessions ended: {Person}, {Count}")]
    private static partial void SessionsEnded(ILogger log, string person, int count);

    [LoggerMessage(Level = LogLevel.Information, Message = "Second factor: {Person}, {What}")]
    private static partial void SecondFactor(ILogger log, string person, string what);

    [LoggerMessage(Level = LogLevel.Information, Message = "Password changed: {Person}")]
    private static partial void PasswordChanged(ILogger log, string person);

    [LoggerMessage(Level = LogLevel.Warning, Message = "Refused: {Person}, {Method} {Path} from {Address}")]
    private static partial void Forbidden(ILogger log, string person, string method, string path, string address);
}
