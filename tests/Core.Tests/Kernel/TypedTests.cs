using NodaTime;
using Shouldly;
using VelvetGate.Core.House;
using Xunit;

namespace VelvetGate.Core.Tests.Kernel;

/// <summary>Dates by ISO 8601, moments by the examples of RFC 3339, section 5.8.</summary>
public class TypedTests
{
    [Theory]
    [InlineData(" 2027-05-31 ", 2027, 5, 31)]
    [InlineData("2028-02-29", 2028, 2, 29)]
    public void Day_IsRead(string text, int year, int month, int day) => Typed.Day(text).ShouldBe(new LocalDate(year, month, day));

    [Theory]
    [InlineData("2027-02-29")]
    [InlineData("31.5.2027")]
    [InlineData("9999-12-31")]
    [InlineData("0027-05-31")]
    [InlineData("")]
    [InlineData(null)]
    public void Day_ThatIsNone_IsNotRead(string? text) => Typed.Day(text).ShouldBeNull();

    [Theory]
    [InlineData("09:30", 9, 30)]
    [InlineData("00:00", 0, 0)]
    public void Time_IsRead(string text, int hour, int minute) => Typed.Time(text).ShouldBe(new LocalTime(hour, minute));

    [Theory]
    [InlineData("24:00")]
    [InlineData("9.30")]
    [InlineData(null)]
    public void Time_ThatIsNone_IsNotRead(string? text) => Typed.Time(text).ShouldBeNull();

    [Fact]
    public void Moment_IsReadWithItsOffset()
    {
        Typed.Moment("1996-12-19T16:39:57-08:00").ShouldBe(Instant.FromUtc(1996, 12, 20, 0, 39, 57));
        Typed.Moment("1985-04-12T23:20:50.52Z").ShouldBe(Instant.FromUtc(1985, 4, 12, 23, 20, 50) + Duration.FromMilliseconds(520));
        Typed.Moment("1996-12-19T16:39:57").ShouldBeNull("without an offset it could be two");
    }

    [Fact]
    public void Word_IsOneOfTheEnumeration_AndNoNumber()
    {
        Typed.Word<Operation>("Engrave").ShouldBe(Operation.Engrave);
        Typed.Word<Operation>("1").ShouldBeNull();
        Typed.Word<Operation>("cut,score").ShouldBeNull();
        Typed.Word<Operation>(null).ShouldBeNull();
    }
}
