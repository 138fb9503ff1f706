using PdfSharp.Drawing;
using QRCoder;

namespace VelvetGate.Web.Shared;

/// <summary>QR codes as drawn squares: sharp at any size.</summary>
internal static class QrDrawing
{
    public static void Draw(XGraphics graphics, string text, XRect box)
    {
        using var data = QRCodeGenerator.GenerateQrCode(text, QRCodeGenerator.ECCLevel.M);
        var modules = data.ModuleMatrix;
        var step = box.Width / modules.Count;
        for (var row = 0; row < modules.Count; row++)
        {
            for (var column = 0; column < modules[row].Length; column++)
            {
                // A hair over its cell, so that no reader sees lines between two.
                if (modules[row][column])
                    graphics.DrawRectangle(XBrushes.Black, box.X + column * step, box.Y + row * step, step * 1.02, step * 1.02);
            }
        }
    }
}
