using VelvetGate.Core.Machines;

namespace VelvetGate.Web.Shared;

/// <summary>Photos that somebody sends.</summary>
internal static class PhotoFiles
{
    /// <returns>Cleaned of all but its pixels; or why it is not taken.</returns>
    public static async Task<Result<CleanPhoto>> Read(IFormFile? file, CancellationToken cancel)
    {
        if (Photos.MayRead(file?.Length) is { } refusal)
            return refusal;
        var bytes = new byte[file!.Length];
        await using (var stream = file.OpenReadStream())
            await stream.ReadExactlyAsync(bytes, cancel);
        return Photos.Clean(bytes);
    }
}
