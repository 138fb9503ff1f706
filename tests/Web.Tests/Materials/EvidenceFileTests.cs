using Microsoft.AspNetCore.Http;
using Shouldly;
using VelvetGate.Web.Materials;
using Xunit;

namespace VelvetGate.Web.Tests.Materials;

/// <summary>What is taken as evidence is told by its bytes, to the end. The pictures were made by another program.</summary>
public class EvidenceFileTests
{
    private const string Whole = "iVBORw0KGgoAAAANSUhEUgAAAAIAAAACCAAAAABX3VL4AAAADklEQVR4nGNoaGBoaAAABgYCASzBUNcAAAAASUVORK5CYII=";
    private const string ClaimsMillion = "iVBORw0KGgoAAAANSUhEUgAAA+gAAAPoCAAAAABoyIs4AAAAC0lEQVR4nGNoaAAAAYMBARg1IhUAAAAASUVORK5CYII=";
    private const string HeadAlone = "iVBORw0KGgoAAAANSUhEUgAAA+gAAAPoCAAAAABoyIs4";
    private const string Pdf = "JVBERi0xLjQK";
    private const string Text = "bm90aGluZyBvZiB0aGUga2luZA==";

    [Theory]
    [InlineData(Whole, 0)]
    [InlineData(Pdf, 0)]
    [InlineData(ClaimsMillion, 415)]
    [InlineData(HeadAlone, 415)]
    [InlineData("iVBORw0KGgo=", 415)]
    [InlineData(Text, 415)]
    public async Task File_IsTakenOnlyWhole(string base64, int status)
    {
        var bytes = Convert.FromBase64String(base64);
        var file = new FormFile(new MemoryStream(bytes), 0, bytes.Length, "file", "photo.png");
        var (_, _, _, problem) = await EvidenceUpload.Read(file, TestContext.Current.CancellationToken);
        (problem?.StatusCode ?? 0).ShouldBe(status);
    }
}
