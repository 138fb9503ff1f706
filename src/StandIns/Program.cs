using System.Globalization;
using VelvetGate.StandIns;

if (args is not ["mailbox", var port, var folder] || !int.TryParse(port, NumberStyles.None, CultureInfo.InvariantCulture, out var number))
{
    Console.Error.WriteLine("standins mailbox PORT FOLDER   keeps every mail that comes over SMTP as a file");
    return 2;
}
await using var box = new MailBox(number, folder);
await box.Ended;
return 0;
