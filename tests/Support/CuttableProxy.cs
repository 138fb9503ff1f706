using System.Net;
using System.Net.Sockets;

namespace VelvetGate.Tests.Support;

/// <summary>Stands between two ends, such as the server and PostgreSQL, and can be cut like a cable.</summary>
public sealed class CuttableProxy : IDisposable
{
    private readonly (string Host, int Port) _target;
    private readonly List<Socket> _open = [];
    private TcpListener _listener;

    public CuttableProxy(string host, int port)
    {
        _target = (host, port);
        _listener = Start(0);
        Port = ((IPEndPoint)_listener.LocalEndpoint).Port;
    }

    public int Port { get; }

    /// <summary>Ends every connection and refuses new ones.</summary>
    public void Cut()
    {
        _listener.Stop();
        lock (_open)
        {
            foreach (var socket in _open)
                socket.Close(0);
            _open.Clear();
        }
    }

    public void Mend() => _listener = Start(Port);

    public void Dispose() => Cut();

    private TcpListener Start(int port)
    {
        var listener = new TcpListener(IPAddress.Loopback, port);
        listener.Server.SetSocketOption(SocketOptionLevel.Socket, SocketOptionName.ReuseAddress, true);
        listener.Start();
        _ = Accept(listener);
        return listener;
    }

    private async Task Accept(TcpListener listener)
    {
        try
        {
            while (true)
            {
                var near = await listener.AcceptSocketAsync();
                var far = new Socket(AddressFamily.InterNetwork, SocketType.Stream, ProtocolType.Tcp);
                await far.ConnectAsync(_target.Host, _target.Port);
                lock (_open)
                    _open.AddRange([near, far]);
                _ = Pipe(near, far);
                _ = Pipe(far, near);
            }
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            // The cable was cut.
        }
    }

    private static async Task Pipe(Socket from, Socket to)
    {
        var buffer = new byte[16 * 1024];
        try
        {
            while (await from.ReceiveAsync(buffer) is > 0 and var read)
                await to.SendAsync(buffer.AsMemory(0, read));
            to.Close();
        }
        catch (Exception e) when (e is SocketException or ObjectDisposedException)
        {
            to.Close();
        }
    }
}
