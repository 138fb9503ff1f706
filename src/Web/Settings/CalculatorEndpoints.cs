using Microsoft.AspNetCore.Http.HttpResults;
using VelvetGate.Core.Settings.Calculators;
using VelvetGate.Web.Shared;

namespace VelvetGate.Web.Settings;

/// <param name="Example">A value that the field takes.</param>
/// <param name="Unit">What a number is in; empty for lengths and speeds, which are typed with theirs.</param>
public sealed record CalculatorInput(string Name, string Label, InputKind Kind, string Example, string Unit, bool Needed);

public sealed record CalculatorLine(string Name, string Title, string For, string Source, IReadOnlyList<CalculatorInput> Inputs);

/// <param name="Values">By the names of the calculator's inputs, as typed.</param>
/// <param name="Unit"><c>mm</c> or <c>in</c>: of bare lengths, and of the answer.</param>
public sealed record CalculatorRequest(IReadOnlyDictionary<string, string?>? Values = null, string? Unit = null);

public sealed record CalculatorValue(string Name, string Label, string Shown);

/// <param name="Standing">What it would mean at the gate; null where a number is all it is.</param>
public sealed record CalculatorAnswer(
    IReadOnlyList<CalculatorValue> Values,
    IReadOnlyList<string> Working,
    IReadOnlyList<string> Says,
    Standing? Standing,
    double Width,
    double Height,
    CalcPicture Picture
);

/// <summary>Calculators: nothing is stored, and a program gets the same numbers from the command line.</summary>
public static class CalculatorEndpoints
{
    public static void MapCalculators(this IEndpointRouteBuilder app)
    {
        var group = app.MapGroup("/api/calculators").WithTags("Settings").RequireAuthorization(Policy.SignedIn);
        group.MapGet("/", List).WithName("ListCalculators");
        group.MapPost("/{calculator}", Work).WithName("Calculate").ProducesProblem(400).ProducesProblem(404);
    }

    private static Ok<IReadOnlyList<CalculatorLine>> List() =>
        TypedResults.Ok<IReadOnlyList<CalculatorLine>>([
            .. CalculatorList.All.Select(c => new CalculatorLine(
                c.Name,
                c.Title,
                c.For,
                c.Source,
                [.. c.Inputs.Select(i => new CalculatorInput(i.Name, i.Label, i.Kind, i.Example, i.Unit, i.Needed))]
            )),
        ]);

    private static Results<Ok<CalculatorAnswer>, ProblemHttpResult> Work(string calculator, CalculatorRequest request)
    {
        if (CalculatorList.Find(calculator) is not { } found)
            return Problems.NotFound("calculator");
        var unit = Length.ParseChoice(request.Unit);
        if (unit.Refusal is { } unread)
            return Problems.Of(unread);
        var (inputs, wrong) = CalcInputs.Read(found, request.Values ?? new Dictionary<string, string?>(), unit.Value);
        if (inputs is null)
        {
            var errors = new FieldErrors();
            errors.Add(wrong);
            return errors.Answer();
        }
        var worked = found.Answer(inputs);
        if (worked.Refusal is { } refusal)
            return Problems.Of(refusal);
        var answer = worked.Value;
        return TypedResults.Ok(
            new CalculatorAnswer(
                Values: [.. answer.Values.Select(v => new CalculatorValue(v.Name, v.Label, v.Shown))],
                Working: answer.Working,
                Says: answer.Says ?? [],
                Standing: answer.Standing,
                Width: CalcPicture.Width,
                Height: CalcPicture.Height,
                Picture: answer.Picture
            )
        );
    }
}
