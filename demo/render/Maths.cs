using System.Numerics;
using System.Runtime.CompilerServices;

namespace Jovitar.Demo.Render;

/// <summary>A small seeded generator of random numbers (PCG-XSH-RR 64/32, O'Neill 2014), so that a picture is the same every time.</summary>
internal struct Rng(ulong seed)
{
    ulong state = (seed * 0x9E3779B97F4A7C15UL) + 0xDA3E39CB94B95BDBUL;

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public uint NextUInt()
    {
        var old = state;
        state = (old * 6364136223846793005UL) + 1442695040888963407UL;
        var shifted = (uint)(((old >> 18) ^ old) >> 27);
        return BitOperations.RotateRight(shifted, (int)(old >> 59));
    }

    /// <summary>A number from 0 up to, but not including, 1.</summary>
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    public float Next() => (NextUInt() >> 8) * (1f / 16777216f);

    public float Range(float low, float high) => low + ((high - low) * Next());

    /// <summary>Normally distributed with mean 0 and deviation 1 (Box-Muller).</summary>
    public float Gauss() => MathF.Sqrt(-2f * MathF.Log(1f - Next())) * MathF.Cos(2f * MathF.PI * Next());

    public int Below(int count) => (int)(Next() * count);
}

/// <summary>Gradient noise and the sums of it that clouds, dunes and cloth are made of.</summary>
internal static class Noise
{
    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    static uint Hash(int x, int y, int z)
    {
        var h = ((uint)x * 0x8DA6B343u) ^ ((uint)y * 0xD8163841u) ^ ((uint)z * 0xCB1AB31Fu);
        h ^= h >> 15;
        h *= 0x2C1B3C6Du;
        h ^= h >> 12;
        h *= 0x297A2D39u;
        return h ^ (h >> 15);
    }

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    static float Corner(int x, int y, int z) => ((Hash(x, y, z) >> 8) * (2f / 16777216f)) - 1f;

    [MethodImpl(MethodImplOptions.AggressiveInlining)]
    static float Ease(float t) => t * t * t * ((t * ((t * 6f) - 15f)) + 10f);

    /// <summary>A value fixed to a whole-numbered cell, 0 to 1.</summary>
    public static float Cell(int x, int y, int z = 0) => (Hash(x, y, z) >> 8) * (1f / 16777216f);

    /// <summary>Smooth noise in the plane, −1 to 1.</summary>
    public static float At(float x, float y, int layer = 0)
    {
        var fx = MathF.Floor(x);
        var fy = MathF.Floor(y);
        int ix = (int)fx, iy = (int)fy;
        float u = Ease(x - fx), v = Ease(y - fy);
        var a = Corner(ix, iy, layer);
        var b = Corner(ix + 1, iy, layer);
        var c = Corner(ix, iy + 1, layer);
        var d = Corner(ix + 1, iy + 1, layer);
        return a + ((b - a) * u) + ((c - a + ((a - b - c + d) * u)) * v);
    }

    /// <summary>Smooth noise in space, −1 to 1.</summary>
    public static float At(Vector3 p)
    {
        float fx = MathF.Floor(p.X), fy = MathF.Floor(p.Y), fz = MathF.Floor(p.Z);
        int ix = (int)fx, iy = (int)fy, iz = (int)fz;
        float u = Ease(p.X - fx), v = Ease(p.Y - fy), w = Ease(p.Z - fz);
        float Plane(int z)
        {
            var a = Corner(ix, iy, z);
            var b = Corner(ix + 1, iy, z);
            var c = Corner(ix, iy + 1, z);
            var d = Corner(ix + 1, iy + 1, z);
            return a + ((b - a) * u) + ((c - a + ((a - b - c + d) * u)) * v);
        }

        var near = Plane(iz);
        return near + ((Plane(iz + 1) - near) * w);
    }

    /// <summary>Octaves of noise, each of twice the frequency and half the height, about −1 to 1.</summary>
    public static float Sum(float x, float y, int octaves, int layer = 0)
    {
        float sum = 0, height = 0.5f;
        for (var i = 0; i < octaves; i++)
        {
            sum += height * At(x, y, layer + i);
            (x, y) = ((1.6f * x) + (1.2f * y) + 3.7f, (-1.2f * x) + (1.6f * y) + 1.3f);
            height *= 0.5f;
        }

        return sum;
    }

    public static float Sum(Vector3 p, int octaves)
    {
        float sum = 0, height = 0.5f;
        for (var i = 0; i < octaves; i++)
        {
            sum += height * At(p);
            p = new Vector3((1.62f * p.X) + (1.2f * p.Z), p.Y * 2.02f, (-1.2f * p.X) + (1.62f * p.Z)) + new Vector3(5.1f, 1.7f, 9.2f);
            height *= 0.5f;
        }

        return sum;
    }
}

internal static class Maths
{
    public const float Degree = MathF.PI / 180f;

    public static float Smooth(float low, float high, float x)
    {
        var t = Math.Clamp((x - low) / (high - low), 0f, 1f);
        return t * t * (3f - (2f * t));
    }

    public static float Mix(float a, float b, float t) => a + ((b - a) * t);

    public static Vector3 Mix(Vector3 a, Vector3 b, float t) => a + ((b - a) * t);

    public static float Luma(Vector3 c) => (0.2126f * c.X) + (0.7152f * c.Y) + (0.0722f * c.Z);

    /// <summary>Two directions at right angles to <paramref name="n"/> and to each other.</summary>
    public static (Vector3 Along, Vector3 Across) Basis(Vector3 n)
    {
        var along = Vector3.Normalize(Vector3.Cross(MathF.Abs(n.Y) < 0.95f ? Vector3.UnitY : Vector3.UnitX, n));
        return (along, Vector3.Cross(n, along));
    }

    /// <summary>A direction around <paramref name="n"/> with probability proportional to its cosine.</summary>
    public static Vector3 CosineAround(Vector3 n, ref Rng rng)
    {
        var radius = MathF.Sqrt(rng.Next());
        var turn = 2f * MathF.PI * rng.Next();
        var (along, across) = Basis(n);
        return Vector3.Normalize((along * (radius * MathF.Cos(turn))) + (across * (radius * MathF.Sin(turn))) + (n * MathF.Sqrt(MathF.Max(0f, 1f - (radius * radius)))));
    }

    /// <summary>A direction from azimuth (0 ahead along +z, positive to the right) and elevation, degrees.</summary>
    public static Vector3 Direction(float azimuth, float elevation)
    {
        var (sa, ca) = MathF.SinCos(azimuth * Degree);
        var (se, ce) = MathF.SinCos(elevation * Degree);
        return new Vector3(sa * ce, se, ca * ce);
    }

    public static Vector3 Turn(Vector3 v, Vector3 axis, float degrees) =>
        Vector3.Transform(v, Quaternion.CreateFromAxisAngle(axis, degrees * Degree));
}
