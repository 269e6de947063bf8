using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>Turns light into a photograph: flare, exposure, tone curve, falling-off corners, grain.</summary>
internal static class Film
{
    /// <summary>Develops linear light to 8-bit sRGB, three bytes a pixel.</summary>
    public static byte[] Develop(Vector3[] light, int width, int height, CameraRecipe camera, int seed)
    {
        Flare(light, width, height);
        var gain = MathF.Pow(2f, camera.Ev) * 0.82f;
        var white = new Vector3(1f + (0.10f * camera.Warmth), 1f, 1f - (0.12f * camera.Warmth));
        var bytes = new byte[width * height * 3];
        Parallel.For(0, height, y =>
        {
            var rng = new Rng(((ulong)seed << 32) + (ulong)y);
            for (var x = 0; x < width; x++)
            {
                var i = (y * width) + x;
                var (dx, dy) = (((x + 0.5f) / width) - 0.5f, (((y + 0.5f) / height) - 0.5f) * height / width);
                var corner = 1f / MathF.Pow(1f + (0.55f * ((dx * dx) + (dy * dy))), 2f);
                var c = light[i] * white * (gain * corner);
                c = new Vector3(Tone(c.X), Tone(c.Y), Tone(c.Z));
                var luma = Maths.Luma(c);
                c = Maths.Mix(new Vector3(luma), c, 1.10f);
                if (camera.Mono)
                {
                    c = new Vector3((0.42f * c.X) + (0.45f * c.Y) + (0.13f * c.Z));
                }

                // Shot noise: strongest in the middle tones once the tone curve has been applied.
                var strength = 0.0085f * camera.Grain * (0.45f + MathF.Sqrt(MathF.Max(0f, luma * (1f - luma))));
                var shared = rng.Gauss() * strength;
                for (var k = 0; k < 3; k++)
                {
                    var v = c[k] + shared + (camera.Mono ? 0 : rng.Gauss() * strength * 0.35f);
                    bytes[(i * 3) + k] = (byte)Math.Clamp((int)((Math.Clamp(v, 0f, 1f) * 255f) + rng.Next()), 0, 255);
                }
            }
        });
        return bytes;
    }

    /// <summary>Filmic curve from linear light to display value (Hable's shoulder, then the sRGB transfer of IEC 61966-2-1).</summary>
    static float Tone(float v)
    {
        static float Curve(float x) => (((x * ((0.22f * x) + 0.03f)) + 0.002f) / ((x * ((0.22f * x) + 0.3f)) + 0.06f)) - (0.01f / 0.3f);
        var mapped = Math.Clamp(Curve(MathF.Max(0f, v) * 2.6f) / Curve(9.5f), 0f, 1f);
        return mapped <= 0.0031308f ? mapped * 12.92f : (1.055f * MathF.Pow(mapped, 1f / 2.4f)) - 0.055f;
    }

    /// <summary>Bright light spreads a little in any lens.</summary>
    static void Flare(Vector3[] light, int width, int height)
    {
        const int down = 4;
        var (w, h) = ((width + down - 1) / down, (height + down - 1) / down);
        var bright = new Vector3[w * h];
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var c = light[(y * width) + x];
                var over = MathF.Max(0f, Maths.Luma(c) - 0.9f);
                if (over > 0)
                {
                    bright[(y / down * w) + (x / down)] += Vector3.Min(c, new Vector3(14f)) * (over / (over + 1f) / (down * down));
                }
            }
        }

        foreach (var (radius, share) in ((int, float)[])[(Math.Max(1, width / 420), 0.10f), (Math.Max(2, width / 110), 0.055f)])
        {
            var soft = bright;
            for (var pass = 0; pass < 3; pass++)
            {
                soft = Blur(Blur(soft, w, h, radius, 1, w), h, w, radius, w, 1);
            }

            Parallel.For(0, height, y =>
            {
                for (var x = 0; x < width; x++)
                {
                    var (fx, fy) = (Math.Clamp(((float)x / down) - 0.5f, 0, w - 1.001f), Math.Clamp(((float)y / down) - 0.5f, 0, h - 1.001f));
                    var (ix, iy) = ((int)fx, (int)fy);
                    var (right, below) = (Math.Min(ix + 1, w - 1), Math.Min(iy + 1, h - 1));
                    var top = Maths.Mix(soft[(iy * w) + ix], soft[(iy * w) + right], fx - ix);
                    var bottom = Maths.Mix(soft[(below * w) + ix], soft[(below * w) + right], fx - ix);
                    light[(y * width) + x] += Maths.Mix(top, bottom, fy - iy) * share;
                }
            });
        }
    }

    static Vector3[] Blur(Vector3[] from, int length, int lines, int radius, int step, int stride)
    {
        var to = new Vector3[from.Length];
        Parallel.For(0, lines, line =>
        {
            var sum = Vector3.Zero;
            for (var i = -radius; i < length; i++)
            {
                if (i + radius < length)
                {
                    sum += from[(line * stride) + ((i + radius) * step)];
                }

                if (i - radius - 1 >= 0)
                {
                    sum -= from[(line * stride) + ((i - radius - 1) * step)];
                }

                if (i >= 0)
                {
                    to[(line * stride) + (i * step)] = sum / ((2 * radius) + 1);
                }
            }
        });
        return to;
    }
}
