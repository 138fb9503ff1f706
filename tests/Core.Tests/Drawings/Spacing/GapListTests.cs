using Shouldly;
using VelvetGate.Core.Drawings.Spacing;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings.Spacing;

public class GapListTests
{
    /// <summary>Against the list of the framework, through ten thousand changes at any place and of any length.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    public void Replace_DoesWhatAListDoes(int seed)
    {
        var random = new Random(seed);
        var (own, plain) = (new GapList<int>(), new List<int>());
        for (var step = 0; step < 10_000; step++)
        {
            if (step % 3000 == 2999)
            {
                own.Clear();
                plain.Clear();
            }
            var from = random.Next(plain.Count + 1);
            var to = Math.Min(plain.Count, from + random.Next(plain.Count > 300 ? 40 : 6));
            var with = Enumerable.Range(0, random.Next(8)).Select(_ => random.Next()).ToArray();
            own.Replace(from, to, with);
            plain.RemoveRange(from, to - from);
            plain.InsertRange(from, with);
            own.Count.ShouldBe(plain.Count);
            if (step % 97 == 0)
                Enumerable.Range(0, own.Count).Select(i => own[i]).ShouldBe(plain, $"step {step}");
        }
    }

    [Fact]
    public void Replace_MoreThanThereIsRoomFor_Grows()
    {
        var list = new GapList<int>();
        list.Replace(0, 0, [.. Enumerable.Range(0, 1000)]);
        list.Replace(10, 990, [-1]);
        Enumerable.Range(0, list.Count).Select(i => list[i]).ShouldBe([.. Enumerable.Range(0, 10), -1, .. Enumerable.Range(990, 10)]);
    }
}
