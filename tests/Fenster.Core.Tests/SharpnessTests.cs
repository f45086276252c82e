using Fenster.Core.Geometry;

namespace Fenster.Core.Tests;

/// <summary>How blurred a picture looks.</summary>
public sealed class SharpnessTests
{
    /// <summary>Stripes with a soft edge of so many pixels.</summary>
    private static Raster Stripes(int edge)
    {
        const int Side = 240,
            Stripe = 40;
        var pixels = new int[Side * Side];
        for (var i = 0; i < pixels.Length; i++)
        {
            var (x, y) = (i % Side, i / Side);
            double Wave(int at)
            {
                var off = Math.Abs(at % Stripe - Stripe / 2.0);
                return Math.Clamp((off - Stripe / 4.0) / Math.Max(1, edge) + 0.5, 0, 1);
            }
            var grey = (int)Math.Round(255 * (Wave(x) + Wave(y)) / 2);
            pixels[i] = grey << 16 | grey << 8 | grey;
        }
        return new(Side, Side, pixels);
    }

    [Fact]
    public void The_softer_the_edges_the_more_blurred()
    {
        var blurs = ((int[])[1, 4, 8, 16]).Select(edge => Sharpness.Of(Stripes(edge)).Blur).ToList();
        Assert.Equal(blurs.Order(), blurs);
        Assert.True(blurs[^1] > blurs[0] + 0.3);
        Assert.All(blurs, blur => Assert.InRange(blur, 0, 1));
        Assert.True(Sharpness.Of(Stripes(1)).IsSharp);
        Assert.False(Sharpness.Of(Stripes(16)).IsSharp);
    }

    [Fact]
    public void In_one_colour_nothing_is_blurred() => Assert.Equal(0, Sharpness.Of(new(20, 20, new int[400])).Blur);
}
