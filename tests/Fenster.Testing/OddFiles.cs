using System.Buffers.Binary;
using System.IO.Compression;
using System.Text;

namespace Fenster.Testing;

/// <summary>Files that no program would write.</summary>
public static class OddFiles
{
    /// <summary>A greyscale PNG of nothing but zeros, which is hardly a file whatever its size.</summary>
    /// <param name="isWhole">Whether it holds all of its rows, or only the first.</param>
    public static byte[] Png(int width, int height, bool isWhole)
    {
        using var packed = new MemoryStream();
        using (var zlib = new ZLibStream(packed, CompressionLevel.Fastest))
            for (var row = 0; row < (isWhole ? height : 1); row++)
                zlib.Write(new byte[width + 1]);
        var header = new byte[13];
        BinaryPrimitives.WriteInt32BigEndian(header, width);
        BinaryPrimitives.WriteInt32BigEndian(header.AsSpan(4), height);
        header[8] = 8;
        return [0x89, .. "PNG\r\n\u001a\n"u8, .. Chunk("IHDR", header), .. Chunk("IDAT", packed.ToArray()), .. Chunk("IEND", [])];
    }

    private static byte[] Chunk(string type, byte[] body)
    {
        byte[] named = [.. Encoding.ASCII.GetBytes(type), .. body];
        var chunk = new byte[named.Length + 8];
        BinaryPrimitives.WriteInt32BigEndian(chunk, body.Length);
        named.CopyTo(chunk, 4);
        BinaryPrimitives.WriteUInt32BigEndian(chunk.AsSpan(named.Length + 4), Crc32(named));
        return chunk;
    }

    /// <summary>By the PNG specification, annex D.</summary>
    private static uint Crc32(byte[] bytes)
    {
        var crc = 0xFFFFFFFFu;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var bit = 0; bit < 8; bit++)
                crc = (crc & 1) != 0 ? 0xEDB88320u ^ crc >> 1 : crc >> 1;
        }
        return ~crc;
    }
}
