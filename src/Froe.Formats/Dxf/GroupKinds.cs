using System.Runtime.CompilerServices;

namespace Froe.Formats.Dxf;

/// <summary>What the value under a group code is to a reader of drawings.</summary>
internal enum GroupKind : byte
{
    /// <summary>Application data and links between objects, which matter to nobody here.</summary>
    Other,
    Text,
    Number,
}

/// <summary>The kinds of value by group code (DXF reference, "Group code value types").</summary>
internal static class GroupKinds
{
    private static readonly GroupKind[] Kinds = [.. Enumerable.Range(0, 1000).Select(KindOf)];

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public static GroupKind Of(int code) => (uint)code < (uint)Kinds.Length ? Kinds[code] : GroupKind.Other;

    private static GroupKind KindOf(int code) => code switch
    {
        999 or 100 or 102 or (>= 310 and < 331) or (> 331 and < 340) or (> 341 and < 370) or (>= 390 and < 420) => GroupKind.Other,
        (>= 10 and < 100) or (>= 110 and < 150) or (>= 160 and < 180) or (>= 210 and < 300) or (>= 370 and < 390) or (>= 420 and < 430) or (>= 440 and < 470) => GroupKind.Number,
        _ => GroupKind.Text,
    };
}
