using System.Text.Json;
using Shouldly;
using Xunit;

namespace VelvetGate.Core.Tests.Kernel;

public class IdsTests
{
    private sealed record Held(PersonId Person, MachineId? Machine, IReadOnlyDictionary<MaterialId, int> Of, IReadOnlyList<SheetTag> Tags);

    [Fact]
    public void Id_InJson_IsItsText()
    {
        var held = new Held("m-4", null, new Dictionary<MaterialId, int> { ["cork"] = 3 }, ["S-0097"]);
        var text = GateJson.Write(held);
        text.ShouldBe("""{"person":"m-4","of":{"cork":3},"tags":["S-0097"]}""");
        var read = GateJson.Read<Held>(text);
        (read.Person, read.Machine, read.Of["cork"], read.Tags[0]).ShouldBe(("m-4", null, 3, "S-0097"));
    }

    [Theory]
    [InlineData("""{"person":7,"of":{},"tags":[]}""")]
    [InlineData("""{"person":null,"of":{},"tags":[]}""")]
    public void Id_ThatIsNoText_IsNotRead(string text) => Should.Throw<JsonException>(() => GateJson.Read<Held>(text));

    [Fact]
    public void NoText_IsNoId()
    {
        Ids.From<PersonId>(null).ShouldBeNull();
        Ids.From<PersonId>("m-4").ShouldBe(new PersonId("m-4"));
    }

    /// <summary>The compiler takes no id for one of another kind, nor for plain text.</summary>
    [Fact]
    public void Ids_DoNotMix()
    {
        Type[] kinds = [typeof(PersonId), typeof(MachineId), typeof(MaterialId), typeof(SheetTag)];
        foreach (var kind in kinds)
        {
            var into = kind.GetMethods().Where(m => m.Name == "op_Implicit").ToList();
            into.ShouldHaveSingleItem().GetParameters()[0].ParameterType.ShouldBe(typeof(string));
            into[0].ReturnType.ShouldBe(kind);
        }
    }
}
