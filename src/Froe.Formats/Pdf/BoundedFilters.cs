using System.IO.Compression;
using UglyToad.PdfPig.Filters;
using UglyToad.PdfPig.Tokens;

namespace Froe.Formats.Pdf;

/// <summary>The filters that unpack a file's streams, with a bound on what they unpack: a few bytes can stand for gigabytes.</summary>
internal sealed class BoundedFilters(long mostOfAll, int mostOfOne) : IFilterProvider
{
    private long unpacked;

    /// <inheritdoc/>
    public IReadOnlyList<IFilter> GetFilters(DictionaryToken dictionary) => Bound(DefaultFilterProvider.Instance.GetFilters(dictionary));

    /// <inheritdoc/>
    public IReadOnlyList<IFilter> GetNamedFilters(IReadOnlyList<NameToken> names) => Bound(DefaultFilterProvider.Instance.GetNamedFilters(names));

    /// <inheritdoc/>
    public IReadOnlyList<IFilter> GetAllFilters() => Bound(DefaultFilterProvider.Instance.GetAllFilters());

    private List<IFilter> Bound(IReadOnlyList<IFilter> filters) => [.. filters.Select(f => new Bounded(this, f))];

    private void Count(long bytes)
    {
        if (bytes > mostOfOne || (unpacked += bytes) > mostOfAll) throw new InvalidDataException("The file unpacks into more than a file of pages may.");
    }

    private sealed class Bounded(BoundedFilters bounds, IFilter filter) : IFilter
    {
        public bool IsSupported => filter.IsSupported;

        public Memory<byte> Decode(Memory<byte> input, DictionaryToken streamDictionary, IFilterProvider filterProvider, int filterIndex)
        {
            if (filter is FlateFilter) Measure(input);
            var output = filter.Decode(input, streamDictionary, bounds, filterIndex);
            bounds.Count(output.Length);
            return output;
        }

        /// <summary>Unpacks into nothing first, which tells how much it is before any of it is kept.</summary>
        private void Measure(Memory<byte> input)
        {
            // Two bytes of zlib stand before the deflated ones; files whose check sum is wrong are read all the same.
            if (input.Length < 3) return;
            using var packed = new MemoryStream(input.ToArray(), 2, input.Length - 2, writable: false);
            using var plain = new DeflateStream(packed, CompressionMode.Decompress);
            var buffer = new byte[1 << 16];
            var length = 0L;
            try
            {
                for (int n; (n = plain.Read(buffer)) > 0;)
                    if ((length += n) > bounds.MostOfOne) bounds.Count(length);
            }
            catch (InvalidDataException) when (length <= bounds.MostOfOne)
            {
                // Damaged further on: the filter itself keeps what comes before.
            }
        }
    }

    private int MostOfOne => mostOfOne;
}
