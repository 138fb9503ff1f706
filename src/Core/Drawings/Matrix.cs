namespace VelvetGate.Core.Drawings;

/// <summary>An affine map: x' = A·x + C·y + E, y' = B·x + D·y + F.</summary>
public readonly record struct Matrix(double A, double B, double C, double D, double E, double F)
{
    public static readonly Matrix Identity = new(1, 0, 0, 1, 0, 0);

    public static Matrix Translate(double x, double y) => new(1, 0, 0, 1, x, y);

    public static Matrix Scale(double x, double y) => new(x, 0, 0, y, 0, 0);

    public static Matrix Rotate(double degrees)
    {
        var (sin, cos) = Math.SinCos(degrees * Math.PI / 180);
        return new Matrix(cos, sin, -sin, cos, 0, 0);
    }

    /// <summary>First <paramref name="inner"/>, then this.</summary>
    public Matrix Times(in Matrix inner) =>
        new(
            A * inner.A + C * inner.B,
            B * inner.A + D * inner.B,
            A * inner.C + C * inner.D,
            B * inner.C + D * inner.D,
            A * inner.E + C * inner.F + E,
            B * inner.E + D * inner.F + F
        );

    public Point Map(Point p) => new(A * p.X + C * p.Y + E, B * p.X + D * p.Y + F);
}

/// <summary>A place on the drawing, in mm once read.</summary>
public readonly record struct Point(double X, double Y)
{
    public static Point operator +(Point a, Point b) => new(a.X + b.X, a.Y + b.Y);

    public static Point operator -(Point a, Point b) => new(a.X - b.X, a.Y - b.Y);

    public static Point operator *(double k, Point p) => new(k * p.X, k * p.Y);

    public double Length => Math.Sqrt(X * X + Y * Y);
}
