using System.Text;

namespace Froe.Formats.Dxf;

/// <summary>A style of dimensions, its scale worked in: sizes in the drawing's units.</summary>
/// <param name="Text">Height of the letters.</param>
/// <param name="Arrow">Length of an arrow head; none where it is 0.</param>
/// <param name="Offset">Between what is measured and its extension line.</param>
/// <param name="Beyond">How far extension lines go beyond the dimension line.</param>
/// <param name="Gap">Between the dimension line and the text.</param>
/// <param name="Decimals">Decimals of the value.</param>
/// <param name="Factor">What lengths are multiplied by.</param>
/// <param name="DropsZeros">Whether zeros at the end are left out.</param>
/// <param name="Form">What stands round the value, which is &lt;&gt; there.</param>
/// <param name="LeaderHead">Handle of the block that is the head of a leader; empty for a filled arrow.</param>
internal sealed record DimensionStyle(double Text, double Arrow, double Offset, double Beyond, double Gap, int Decimals, double Factor, bool DropsZeros, string Form, string LeaderHead)
{
    /// <summary>DIMLDRBLK.</summary>
    private const int LeaderBlock = 341;

    /// <summary>The style of an entity: of its table entry, unless its own application data departs from that (DXF reference, DIMSTYLE overrides: “DSTYLE”, then codes, 1070, each with its value).</summary>
    /// <param name="entry">The entry of the table; null where there is none.</param>
    public static DimensionStyle Of(Record? entry, Record entity, DxfText text)
    {
        var own = new Dictionary<int, double>();
        var head = entry is null ? "" : Encoding.ASCII.GetString(entry.GetText(LeaderBlock));
        var (isStyle, code) = (false, -1);
        for (var i = 0; i < entity.Count; i++)
            switch (entity.Code(i))
            {
                case 1000:
                    (isStyle, code) = (entity.Word(i).SequenceEqual("DSTYLE"u8) || (isStyle && code >= 0), -1);
                    break;
                case 1070 when isStyle && code < 0: code = (int)Math.Clamp(entity.Number(i), -1, 1000); break;
                case 1040 or 1070 when isStyle:
                    own[code] = entity.Number(i);
                    code = -1;
                    break;
                case 1005 when isStyle:
                    if (code == LeaderBlock) head = Encoding.ASCII.GetString(entity.Word(i));
                    code = -1;
                    break;
            }
        double D(int of, double otherwise) => (own.TryGetValue(of, out var v) ? v : entry?.Get(of, otherwise) ?? otherwise) is var value && double.IsFinite(value) && Math.Abs(value) < 1e9 ? value : otherwise;
        var whole = D(40, 1) is > 0 and var stated ? stated : 1;
        return new DimensionStyle(
            whole * D(140, 2.5), whole * D(41, 2.5), whole * D(42, 0.625), whole * D(44, 1.25), whole * D(147, 0.625), (int)Math.Clamp(D(271, 2), 0, 8),
            D(144, 1), ((int)D(78, 8) & 8) != 0, entry is null ? "" : text.Decode(entry.GetText(3)), head);
    }
}
