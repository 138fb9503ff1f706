using Shouldly;

namespace VelvetGate.Web.Tests.House;

/// <summary>The form of a machine, as a keeper changes one field of it.</summary>
internal static class MachineSheets
{
    /// <summary>Changes it, and it is taken.</summary>
    public static async Task Write(WebHouse house, string machine, string field, string value)
    {
        var answer = await Put(house, machine, field, value);
        ((int)answer.Status).ShouldBeInRange(200, 204, answer.Body.ToString());
    }

    public static async Task<Answer> Put(WebHouse house, string machine, string field, string value)
    {
        using var keeper = await house.As("keeper");
        var sheet = (await keeper.Get("/api/house/sheets"))
            .Body.GetProperty("machines")
            .EnumerateArray()
            .Single(m => m.GetProperty("spec").GetProperty("id").GetString() == machine);
        var fields = new Dictionary<string, object>();
        foreach (
            var property in sheet
                .GetProperty("spec")
                .EnumerateObject()
                .Where(p => p.Value.ValueKind != System.Text.Json.JsonValueKind.Object)
        )
            fields[property.Name] = property.Value;
        foreach (var property in sheet.GetProperty("spec").GetProperty("station").EnumerateObject())
            fields[$"station.{property.Name}"] = property.Value;
        foreach (var own in new[] { "enclosureKind", "framing" })
        {
            if (fields.Remove(own, out var at))
                fields[$"station.{own}"] = at;
        }
        fields[field] = value;
        return await keeper.Put(
            $"/api/machines/{machine}",
            new
            {
                fields,
                unit = "mm",
                version = sheet.GetProperty("version").GetInt32(),
            }
        );
    }
}
