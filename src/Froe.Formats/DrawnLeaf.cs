using Froe.Core.Draft;
using Froe.Core.Drawing;
using Froe.Formats.Pictures;

namespace Froe.Formats;

/// <summary>A leaf all of which is in its geometry, with every form that follows from that.</summary>
internal static class DrawnLeaf
{
    /// <param name="sheet">What is drawn.</param>
    /// <param name="position">Its place in the draft.</param>
    /// <param name="pictureSize">Pixels on the longer side of the picture to look at first.</param>
    /// <param name="smallSize">And of that for lists.</param>
    public static ReadLeaf Of(Sheet sheet, int position, int pictureSize, int smallSize) => new(
        new Leaf(position, sheet.Name, new SheetFrame(sheet.Unit, sheet.Extents, Scales: sheet.Scales.Count > 0 ? sheet.Scales : null, Pictures: sheet.Pictures.Count > 0 ? sheet.Pictures : null)),
        [
            new ReadForm(LeafForms.Geometry, PreparedSheet.MediaType, to => PreparedSheet.WriteGeometry(sheet, to)),
            new ReadForm(LeafForms.Details, PreparedSheet.MediaType, to => PreparedSheet.WriteDetails(sheet, to)),
            new ReadForm(LeafForms.Text, "application/json", to => WrittenForm.Write(WrittenForm.Of(sheet), to)),
            new ReadForm(LeafForms.Picture, "image/webp", to => to.Write(SheetPicture.WebP(sheet, pictureSize))),
            new ReadForm(LeafForms.Small, "image/webp", to => to.Write(SheetPicture.WebP(sheet, smallSize))),
        ]);
}
