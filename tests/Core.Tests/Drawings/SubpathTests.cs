using Shouldly;
using VelvetGate.Core.Drawings;
using Xunit;

namespace VelvetGate.Core.Tests.Drawings;

/// <summary>A stroke kept as its points gives back the pieces it was made of.</summary>
public class SubpathTests
{
    private static readonly Point A = new(0, 0),
        B = new(10, 0),
        C = new(10, 5),
        D = new(0, 5);

    [Fact]
    public void Pieces_OfLinesAlone_ComeBack()
    {
        Segment[] pieces = [Segment.Line(A, B), Segment.Line(B, C), Segment.Line(C, D)];
        var path = new Subpath(pieces, closedByCommand: false);
        Enumerable.Range(0, path.Count).Select(i => path[i]).ShouldBe(pieces);
        (path.Start, path.End, path.IsClosed).ShouldBe((A, D, false));
    }

    [Fact]
    public void Pieces_OfLinesAndCurves_ComeBack()
    {
        Segment[] pieces =
        [
            Segment.Line(A, B),
            Segment.Cubic(B, new(12, 1), new(12, 4), C),
            Segment.Line(C, D),
            Segment.Quadratic(D, new(-3, 2), A),
        ];
        var path = new Subpath(pieces, closedByCommand: false);
        Enumerable.Range(0, path.Count).Select(i => path[i]).ShouldBe(pieces);
        path.IsClosed.ShouldBeTrue("its ends meet");
    }

    [Fact]
    public void Map_ACurve_IsTheCurveOfTheMappedPoints()
    {
        var turn = Matrix.Translate(3, 4).Times(Matrix.Rotate(30));
        var path = new Subpath([Segment.Line(A, B), Segment.Cubic(B, new(12, 1), new(12, 4), C)], closedByCommand: true).Map(turn);
        path[1].ShouldBe(Segment.Cubic(turn.Map(B), turn.Map(new(12, 1)), turn.Map(new(12, 4)), turn.Map(C)));
        path[0].Length().ShouldBe(10, 1e-12);
        path.ClosedByCommand.ShouldBeTrue();
    }

    [Theory]
    [InlineData(9.9, false)]
    [InlineData(10, true)]
    public void LiesWithin_LooksAtEveryPoint(double mm, bool within) =>
        new Subpath([Segment.Line(A, B), Segment.Line(B, C)], closedByCommand: false).LiesWithin(mm).ShouldBe(within);

    [Fact]
    public void LiesWithin_NotANumber_IsNowhere() =>
        new Subpath([Segment.Line(A, new(double.NaN, 0))], closedByCommand: false).LiesWithin(1e9).ShouldBeFalse();
}
