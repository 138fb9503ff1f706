using System.Net;
using Microsoft.AspNetCore.HttpOverrides;

namespace VelvetGate.Web.Shared;

/// <summary>Where this house is found, as its setting says: links and codes never follow what a request claims to be its host.</summary>
public sealed class HouseAddress(IConfiguration config)
{
    public string Base { get; } = (config["VELVETGATE_URL"] ?? "http://127.0.0.1:5080").TrimEnd('/');

    /// <summary>Reached by TLS: cookies are marked secure, and browsers are told to stay with it.</summary>
    public bool IsSecure => Base.StartsWith("https://", StringComparison.OrdinalIgnoreCase);

    /// <param name="path">With its slash.</param>
    public string Of(string path) => Base + path;
}

/// <summary>Behind a proxy: whom it is believed, and which hosts are served.</summary>
public static class BehindProxy
{
    /// <summary>
    /// Takes <c>X-Forwarded-For</c> and <c>X-Forwarded-Proto</c> from the proxies of <c>VELVETGATE_PROXIES</c> (addresses or networks, with
    /// commas), and from nobody else.
    /// </summary>
    public static void UseKnownProxies(this WebApplication app)
    {
        if (app.Configuration["VELVETGATE_PROXIES"] is not { Length: > 0 } text)
            return;
        var options = new ForwardedHeadersOptions
        {
            ForwardedHeaders = ForwardedHeaders.XForwardedFor | ForwardedHeaders.XForwardedProto,
            ForwardLimit = 1,
        };
        options.KnownIPNetworks.Clear();
        options.KnownProxies.Clear();
        foreach (var part in text.Split(',', StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries))
        {
            if (System.Net.IPNetwork.TryParse(part, out var network))
                options.KnownIPNetworks.Add(network);
            else if (IPAddress.TryParse(part, out var address))
                options.KnownProxies.Add(address);
            else
                throw new InvalidOperationException(
                    $"VELVETGATE_PROXIES: “{part}” is no address and no network. Write it like 10.0.0.2 or 10.0.0.0/24."
                );
        }
        app.UseForwardedHeaders(options);
    }
}

/// <param name="Demo">Demo sign-ins are printed and shown.</param>
public sealed record Mode(bool Demo);
