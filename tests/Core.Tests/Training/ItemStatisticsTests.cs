using MathNet.Numerics.LinearAlgebra;
using MathNet.Numerics.Statistics;
using Shouldly;
using VelvetGate.Core.Training;
using Xunit;

namespace VelvetGate.Core.Tests.Training;

/// <summary>Item analysis against MathNet.Numerics, an independent package, and against examples worked by hand.</summary>
public class ItemStatisticsTests
{
    private static readonly Question Some = new(
        Id: "q",
        Topic: "fire",
        Kind: QuestionKind.Single,
        Critical: false,
        Text: "?",
        Options: ["a", "b", "c"],
        Correct: [0],
        Why: "Because."
    );

    /// <summary>
    /// The point-biserial correlation is Pearson's with 0 and 1 (Crocker and Algina 1986, chapter 14): 200 random groups.
    /// </summary>
    [Fact]
    public void PointBiserial_IsPearsonsOfAnIndependentPackage()
    {
        var random = new Random(19);
        for (var round = 0; round < 200; round++)
        {
            var score = Enumerable.Range(0, 5 + random.Next(60)).Select(_ => random.NextDouble()).ToList();
            var right = score.Select(s => random.NextDouble() < 0.2 + 0.6 * s).ToList();
            var outside = Correlation.Pearson(right.Select(r => r ? 1.0 : 0), score);
            if (ItemStatistics.PointBiserial(right, score) is { } own)
                own.ShouldBe(outside, 1e-12);
            else
                right.Distinct().Count().ShouldBe(1);
        }
    }

    /// <summary>
    /// By hand: four people, scores 1 2 3 4; those with 3 and 4 have it right. M1 - M0 = 2, s = √1.25, √(pq) = 1/2: 0.8944.
    /// </summary>
    [Fact]
    public void PointBiserial_WorkedByHand() =>
        ItemStatistics.PointBiserial([false, false, true, true], [1, 2, 3, 4])!.Value.ShouldBe(0.894427191, 1e-9);

    /// <summary>
    /// KR-20 is Cronbach's alpha of right and wrong: k/(k-1)·(1 - trace of the covariances over their sum), from MathNet's covariances.
    /// </summary>
    [Fact]
    public void Kr20_IsCronbachsAlphaOfAnIndependentPackage()
    {
        var random = new Random(23);
        for (var round = 0; round < 60; round++)
        {
            var (people, k) = (8 + random.Next(80), 2 + random.Next(20));
            var items = Enumerable
                .Range(0, people)
                .Select(_ =>
                {
                    var skill = random.NextDouble();
                    return (IReadOnlyList<bool>)[.. Enumerable.Range(0, k).Select(i => random.NextDouble() < skill)];
                })
                .ToList();
            var columns = Matrix<double>.Build.Dense(people, k, (p, i) => items[p][i] ? 1 : 0).EnumerateColumns().ToList();
            var (trace, all) = (0.0, 0.0);
            for (var i = 0; i < k; i++)
            {
                for (var j = 0; j < k; j++)
                {
                    var covariance = columns[i].PopulationCovariance(columns[j]);
                    all += covariance;
                    if (i == j)
                        trace += covariance;
                }
            }
            if (all < 1e-9)
                continue;
            ItemStatistics.Kr20(items)!.Value.ShouldBe(k / (k - 1.0) * (1 - trace / all), 1e-9);
        }
    }

    /// <summary>
    /// By hand: five people, four questions, right 4 3 2 1 0 of them in a perfect ladder. Σpq = 0.8, s² = 2: 4/3·(1 - 0.4) = 0.8.
    /// </summary>
    [Fact]
    public void Kr20_WorkedByHand()
    {
        var items = Enumerable.Range(0, 5).Select(p => (IReadOnlyList<bool>)[.. Enumerable.Range(0, 4).Select(i => i < p)]).ToList();
        ItemStatistics.Kr20(items)!.Value.ShouldBe(0.8, 1e-12);
        ItemStatistics.Kr20Drawn(4, 0.2, [0, 1, 2, 3, 4])!.Value.ShouldBe(0.8, 1e-12);
    }

    [Fact]
    public void NothingToTell_IsSaid_NeverGuessed()
    {
        ItemStatistics.PointBiserial([true, true], [1, 2]).ShouldBeNull();
        ItemStatistics.PointBiserial([true, false], [1, 1]).ShouldBeNull();
        ItemStatistics
            .Kr20([
                [true, false],
            ])
            .ShouldBeNull();
        ItemStatistics
            .Kr20([
                [true, false],
                [false, true],
            ])
            .ShouldBeNull("all totals are the same");
    }

    [Theory]
    [InlineData(10, 0.9, 0.2, "Too few answers to judge: 10 of 20.")]
    [InlineData(40, 0.2, 0.9, "Most who know the rest miss this: look for a second right answer, and reword.")]
    [InlineData(40, 0.9, 0.9, "It hardly tells who knows: reword, or let it go.")]
    public void Advice_SaysWhatToDo(int asked, double restOfRight, double restOfWrong, string advice)
    {
        var answers = Enumerable
            .Range(0, asked)
            .Select(i => new ItemAnswer(
                i % 2 == 0,
                (i % 2 == 0 ? restOfRight : restOfWrong) + i % 5 * 0.01,
                [i % 2 == 0 ? 0 : 1 + i % 4 / 2]
            ))
            .ToList();
        ItemStatistics.Of(Some, answers).Advice.ShouldBe(advice);
    }

    [Fact]
    public void Chosen_CountsEachOption_AndNamesWhatNobodyChooses()
    {
        var answers = Enumerable
            .Range(0, 40)
            .Select(i => new ItemAnswer(i < 24, i < 24 ? 0.8 + i * 0.001 : 0.5 - i * 0.001, [i < 24 ? 0 : 1]))
            .ToList();
        var item = ItemStatistics.Of(Some, answers);
        (item.Asked, item.Difficulty).ShouldBe((40, 0.6));
        item.Chosen.ShouldBe([24, 16, 0]);
        item.Advice.ShouldBe("Nobody ever chooses “c”: find a better wrong answer.");
    }
}
