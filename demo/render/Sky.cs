using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>The light of the sky: a gradient by the height of the sun, its glow, clouds marched through a slab, stars.</summary>
internal sealed class Sky
{
    /// <summary>Colours of the sky by elevation of the sun, degrees; linear, about 1 = a sunlit white card.</summary>
    static readonly (float Sun, Vector3 Zenith, Vector3 Horizon, Vector3 Glow, Vector3 Light)[] Keys =
    [
        (-18f, new(0.0010f, 0.0017f, 0.0048f), new(0.0025f, 0.0042f, 0.010f), new(0.001f, 0.001f, 0.002f), new(0f, 0f, 0f)),
        (-9f, new(0.0030f, 0.0066f, 0.0230f), new(0.0150f, 0.0220f, 0.0440f), new(0.030f, 0.016f, 0.014f), new(0f, 0f, 0f)),
        (-4f, new(0.018f, 0.040f, 0.125f), new(0.17f, 0.135f, 0.155f), new(0.42f, 0.14f, 0.05f), new(0.03f, 0.012f, 0.006f)),
        (1f, new(0.060f, 0.105f, 0.27f), new(0.62f, 0.36f, 0.22f), new(1.2f, 0.46f, 0.12f), new(0.95f, 0.36f, 0.10f)),
        (6f, new(0.080f, 0.165f, 0.42f), new(0.66f, 0.55f, 0.44f), new(1.1f, 0.62f, 0.27f), new(1.75f, 0.98f, 0.45f)),
        (15f, new(0.085f, 0.20f, 0.52f), new(0.56f, 0.63f, 0.70f), new(0.7f, 0.55f, 0.38f), new(2.2f, 1.66f, 1.06f)),
        (40f, new(0.085f, 0.21f, 0.56f), new(0.52f, 0.66f, 0.82f), new(0.45f, 0.42f, 0.36f), new(2.5f, 2.25f, 1.9f)),
        (90f, new(0.08f, 0.20f, 0.56f), new(0.50f, 0.65f, 0.84f), new(0.4f, 0.4f, 0.36f), new(2.6f, 2.4f, 2.1f)),
    ];

    readonly SkyRecipe recipe;
    readonly Vector3 zenith, horizon, glow, drift;
    readonly float overcast;

    public Sky(SkyRecipe recipe, int seed)
    {
        this.recipe = recipe;
        Sun = Maths.Direction(recipe.Azimuth, recipe.Elevation);
        var upper = Array.FindIndex(Keys, k => k.Sun >= recipe.Elevation);
        upper = Math.Clamp(upper, 1, Keys.Length - 1);
        var (a, b) = (Keys[upper - 1], Keys[upper]);
        var t = Math.Clamp((recipe.Elevation - a.Sun) / (b.Sun - a.Sun), 0f, 1f);
        zenith = Maths.Mix(a.Zenith, b.Zenith, t);
        horizon = Maths.Mix(a.Horizon, b.Horizon, t);
        glow = Maths.Mix(a.Glow, b.Glow, t);
        overcast = Maths.Smooth(0.75f, 1f, recipe.Cloud);
        Light = Maths.Mix(a.Light, b.Light, t) * (1f - (0.94f * overcast)) * recipe.SunStrength;
        drift = new Vector3(seed * 7.13f % 977f, seed * 1.7f % 13f, seed * 3.77f % 811f);
        var grey = Maths.Luma(zenith + horizon);
        zenith = Maths.Mix(zenith, new Vector3(grey) * new Vector3(0.62f, 0.66f, 0.72f), overcast);
        horizon = Maths.Mix(horizon, new Vector3(grey) * new Vector3(0.92f, 0.93f, 0.94f), overcast);
        zenith *= recipe.Tint;
        horizon *= recipe.Tint;
        glow *= recipe.Tint;
    }

    /// <summary>Direction to the sun, of length 1.</summary>
    public Vector3 Sun { get; }

    /// <summary>Irradiance of the sun on a surface that faces it.</summary>
    public Vector3 Light { get; }

    public bool SunIsUp => Maths.Luma(Light) > 0.001f;

    /// <summary>The clear sky in one direction, without the disc of the sun.</summary>
    public Vector3 Clear(Vector3 d)
    {
        var up = MathF.Max(d.Y, 0f);
        var rise = MathF.Pow(up, 0.42f + (0.25f * recipe.Haze));
        var colour = Maths.Mix(horizon, zenith, Math.Clamp(rise * 1.08f, 0f, 1f));
        var flat = Vector3.Normalize(new Vector3(Sun.X, 0.0001f, Sun.Z));
        var toward = Vector3.Dot(Vector3.Normalize(new Vector3(d.X, 0.0001f, d.Z)), flat);
        var cosine = Vector3.Dot(d, Sun);
        var low = 1f - Maths.Smooth(4f, 25f, recipe.Elevation);
        // Away from a low sun the horizon turns to the pink and slate of the earth's own shadow.
        var anti = new Vector3(0.56f, 0.53f, 0.66f) * Maths.Luma(horizon);
        colour = Maths.Mix(colour, Maths.Mix(anti, zenith, Math.Clamp(rise * 1.3f, 0f, 1f)), low * 0.75f * Maths.Smooth(0.25f, -0.8f, toward));
        var wide = MathF.Pow(MathF.Max(0f, (cosine + 1f) * 0.5f), 9f) * (1f - (0.55f * MathF.Sqrt(up)));
        var near = MathF.Pow(MathF.Max(0f, cosine), 90f);
        var core = MathF.Pow(MathF.Max(0f, cosine), 900f);
        var veil = 1f - (0.9f * overcast);
        colour += glow * ((wide * (0.35f + (0.5f * recipe.Haze))) + (near * 0.8f) + (core * 2.5f)) * veil;
        return colour;
    }

    /// <summary>What a camera or a mirror sees: sky, clouds, sun and stars.</summary>
    public Vector3 Seen(Vector3 d, ref Rng rng, int steps = 14)
    {
        var colour = Clear(d);
        var cosine = Vector3.Dot(d, Sun);
        if (SunIsUp && cosine > 0.99994f)
        {
            colour += Light * 40f * Maths.Smooth(0.99994f, 0.99997f, cosine) * (1f - overcast);
        }

        if (recipe.Elevation < -5f)
        {
            colour += Stars(d);
        }

        return recipe.Cloud > 0.01f && d.Y > 0.004f ? Clouds(d, colour, ref rng, steps) : colour;
    }

    static Vector3 Stars(Vector3 d)
    {
        if (d.Y < 0.03f)
        {
            return Vector3.Zero;
        }

        const float scale = 210f;
        var (x, y) = (MathF.Atan2(d.X, d.Z) * scale, MathF.Asin(Math.Clamp(d.Y, -1f, 1f)) * scale);
        var (cx, cy) = ((int)MathF.Floor(x), (int)MathF.Floor(y));
        var chance = Noise.Cell(cx, cy, 11);
        if (chance < 0.972f)
        {
            return Vector3.Zero;
        }

        var (px, py) = (cx + 0.2f + (0.6f * Noise.Cell(cx, cy, 12)), cy + 0.2f + (0.6f * Noise.Cell(cx, cy, 13)));
        var away = ((x - px) * (x - px)) + ((y - py) * (y - py));
        var bright = MathF.Pow((chance - 0.972f) / 0.028f, 6f);
        var warm = Noise.Cell(cx, cy, 14);
        return new Vector3(0.85f + (0.3f * warm), 0.95f, 1.15f - (0.3f * warm)) * (MathF.Exp(-away * 45f) * (0.05f + (1.1f * bright)) * Maths.Smooth(0.03f, 0.25f, d.Y));
    }

    /// <summary>How dense cloud is at a point of the slab (kilometres), 0 to 1.</summary>
    float Density(Vector3 p, int octaves)
    {
        var q = (p * recipe.CloudScale) + drift;
        if (recipe.Wispy)
        {
            q = new Vector3(q.X * 0.35f, q.Y, q.Z * 1.6f) + (new Vector3(0.5f, 0f, 0.9f) * Noise.At(q.X * 0.5f, q.Z * 0.5f, 3));
            return Math.Clamp((Noise.Sum(q.X, q.Z, octaves + 1) + (recipe.Cloud * 0.75f) - 0.30f) * 0.9f, 0f, 1f) * 0.45f;
        }

        var shape = Noise.Sum(q, octaves) + (0.35f * Noise.At(q.X * 0.35f, q.Z * 0.35f, 5));
        var height = Math.Clamp((p.Y - 1.2f) / 0.9f, 0f, 1f);
        var profile = Maths.Smooth(0f, 0.12f, height) * (1f - (height * height * 0.9f));
        return Math.Clamp((shape + (recipe.Cloud * 0.95f) - 0.62f) * 3.2f * profile, 0f, 1f);
    }

    Vector3 Clouds(Vector3 d, Vector3 behind, ref Rng rng, int steps)
    {
        var thin = recipe.Wispy;
        var (bottom, top) = thin ? (5f, 5.05f) : (1.2f, 2.1f);
        var rise = d.Y + 0.012f;
        var (start, end) = (bottom / rise, MathF.Min(top / rise, (bottom / rise) + 9f));
        var count = thin ? 1 : steps;
        var length = (end - start) / count;
        var (clear, gathered) = (1f, Vector3.Zero);
        var cosine = Vector3.Dot(d, Sun);
        var phase = 0.55f + (1.1f * MathF.Pow(MathF.Max(0f, cosine), 5f)) + (2.2f * MathF.Pow(MathF.Max(0f, cosine), 60f));
        var sunColour = Light * 0.62f + (glow * 0.35f * Maths.Smooth(12f, -4f, recipe.Elevation));
        var shade = (zenith * 0.75f) + (horizon * 0.55f);
        var jitter = rng.Next();
        for (var i = 0; i < count; i++)
        {
            var p = d * (start + ((i + jitter) * length));
            var density = Density(p, steps > 4 ? 5 : 3);
            if (density < 0.01f)
            {
                continue;
            }

            var toSun = Sun.Y > 0.05f ? Sun : Vector3.Normalize(Sun with { Y = 0.05f });
            var shadow = thin ? 0.2f : (Density(p + (toSun * 0.10f), 3) * 0.9f) + (Density(p + (toSun * 0.32f), 2) * 1.5f);
            var lit = (MathF.Exp(-shadow * 1.5f) + (0.25f * MathF.Exp(-shadow * 0.35f))) * phase;
            var height = Math.Clamp((p.Y - bottom) / (top - bottom), 0f, 1f);
            var colour = (sunColour * lit) + (shade * (0.55f + (0.55f * height)));
            var opacity = 1f - MathF.Exp(-density * (thin ? 1.1f : MathF.Min(length, 0.35f) * 9f));
            gathered += colour * (clear * opacity);
            clear *= 1f - opacity;
            if (clear < 0.02f)
            {
                break;
            }
        }

        var far = Maths.Smooth(0.004f, 0.16f, d.Y);
        return Maths.Mix(behind, (behind * clear) + gathered, far);
    }

    /// <summary>The colour that distance fades to in one direction.</summary>
    public Vector3 HazeToward(Vector3 d) => Clear(Vector3.Normalize(new Vector3(d.X, 0.015f, d.Z)));
}
