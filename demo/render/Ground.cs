using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>Strand, dunes and sea. The land is a height field, the sea a plane at height 0 whose normal moves.</summary>
internal sealed class Ground
{
    const int Cells = 1200;
    const float Step = 0.35f;
    const float Half = Cells * Step / 2f;

    readonly GroundRecipe recipe;
    readonly int seed;
    readonly Vector2 seaward;
    readonly float[] heights = new float[Cells * Cells];
    readonly float highest;

    public Ground(GroundRecipe recipe, int seed)
    {
        this.recipe = recipe;
        this.seed = seed % 1000;
        seaward = new Vector2(MathF.Sin(recipe.Sea * Maths.Degree), MathF.Cos(recipe.Sea * Maths.Degree));
        Parallel.For(0, Cells, z =>
        {
            for (var x = 0; x < Cells; x++)
            {
                heights[(z * Cells) + x] = Shape((x * Step) - Half, (z * Step) - Half);
            }
        });
        highest = MathF.Max(heights.Max(), recipe.Dune * 1.7f);
    }

    /// <summary>Distance to the water's edge, metres; positive on land.</summary>
    float Inland(float x, float z) =>
        recipe.Shore - ((x * seaward.X) + (z * seaward.Y)) + (4f * Noise.At(x * 0.013f, z * 0.013f, seed)) + (1.3f * Noise.At(x * 0.06f, z * 0.06f, seed + 1));

    float Shape(float x, float z)
    {
        var inland = Inland(x, z);
        var beach = inland > 0 ? MathF.Min(inland * 0.022f, 1.6f) : inland * 0.05f;
        var behind = inland - recipe.Shore - recipe.DuneFrom;
        var rise = Maths.Smooth(0f, 26f, behind);
        var dunes = 0f;
        if (rise > 0)
        {
            var ridge = 1f - MathF.Abs(Noise.Sum(x * 0.021f, z * 0.021f, 3, seed + 60));
            dunes = rise * recipe.Dune * ((0.55f * ridge * ridge) + 0.45f + (0.55f * Noise.Sum(x * 0.034f, z * 0.034f, 4, seed + 70)));
        }

        return beach + dunes + (0.10f * Noise.Sum(x * 0.22f, z * 0.22f, 3, seed + 80) * Maths.Smooth(1f, 14f, inland));
    }

    public float Height(float x, float z)
    {
        var (fx, fz) = ((x + Half) / Step, (z + Half) / Step);
        if (fx < 0 || fz < 0 || fx >= Cells - 1 || fz >= Cells - 1)
        {
            return Shape(x, z);
        }

        var (ix, iz) = ((int)fx, (int)fz);
        var (u, v) = (fx - ix, fz - iz);
        var i = (iz * Cells) + ix;
        return Maths.Mix(Maths.Mix(heights[i], heights[i + 1], u), Maths.Mix(heights[i + Cells], heights[i + Cells + 1], u), v);
    }

    /// <summary>Finds where a ray meets land or sea before <paramref name="limit"/>.</summary>
    public bool Meet(in Ray ray, float limit, out float found, out bool sea)
    {
        sea = false;
        found = 0;
        var reach = MathF.Min(limit, 2600f);
        float t = 0.02f, last = 0;
        if (ray.Origin.Y > highest)
        {
            if (ray.Direction.Y >= 0)
            {
                return false;
            }

            t = MathF.Max(t, (highest - ray.Origin.Y) / ray.Direction.Y);
        }

        for (var i = 0; i < 160 && t < reach; i++)
        {
            var p = ray.At(t);
            if (p.Y > highest && ray.Direction.Y >= 0)
            {
                return false;
            }

            var above = p.Y - MathF.Max(0f, Height(p.X, p.Z));
            if (above < 0.002f + (t * 0.00006f))
            {
                for (var k = 0; k < 6; k++)
                {
                    var middle = (last + t) * 0.5f;
                    var q = ray.At(middle);
                    if (q.Y < MathF.Max(0f, Height(q.X, q.Z)))
                    {
                        t = middle;
                    }
                    else
                    {
                        last = middle;
                    }
                }

                var end = ray.At(t);
                sea = Height(end.X, end.Z) < 0.001f;
                if (sea && ray.Direction.Y < 0)
                {
                    t = -ray.Origin.Y / ray.Direction.Y;
                }

                found = t;
                return t < limit;
            }

            last = t;
            t += MathF.Max(above * 0.75f, 0.02f + (t * 0.006f));
        }

        if (ray.Direction.Y < -1e-5f)
        {
            t = -ray.Origin.Y / ray.Direction.Y;
            var end = ray.At(t);
            if (t < limit && Inland(end.X, end.Z) < 0)
            {
                (found, sea) = (t, true);
                return true;
            }
        }

        return false;
    }

    /// <summary>Land's colour, normal and wetness at a point seen from <paramref name="distance"/> away.</summary>
    public (Surface Surface, float Wet) Land(Vector3 p, float distance)
    {
        var e = MathF.Max(0.18f, distance * 0.002f);
        var normal = new Vector3(Height(p.X - e, p.Z) - Height(p.X + e, p.Z), 2f * e, Height(p.X, p.Z - e) - Height(p.X, p.Z + e));
        normal = Vector3.Normalize(normal);
        var inland = Inland(p.X, p.Z);
        var wet = 1f - Maths.Smooth(recipe.Wet * 0.35f, recipe.Wet, inland + (1.6f * Noise.Sum(p.X * 0.12f, p.Z * 0.25f, 3, seed + 90)));
        var near = 1f - Maths.Smooth(4f, 45f, distance);
        if (near > 0)
        {
            // Wind ripples across the wind, and hollows where people walked.
            var wander = Noise.Sum(p.X * 0.7f, p.Z * 0.7f, 3, seed + 100) * 3.2f;
            var phase = ((p.X * 1.1f) + (p.Z * 5.2f)) * 3.3f;
            var ripple = MathF.Cos(phase + wander) * 0.14f * (0.4f + (0.6f * Maths.Smooth(-0.2f, 0.4f, Noise.At(p.X * 0.2f, p.Z * 0.2f, seed + 101))));
            normal += new Vector3(ripple * 0.25f, 0, ripple) * near * (1f - (0.6f * wet));
            normal += Trodden(p) * near * (1f - wet);
            normal += new Vector3(Noise.At(p.X * 31f, p.Z * 31f, 111), 0, Noise.At(p.X * 31f, p.Z * 31f, 112)) * (0.16f * near * (1f - (0.8f * wet)));
        }

        var grain = 1f + (0.14f * Noise.Sum(p.X * 3.1f, p.Z * 3.1f, 4, seed + 110)) + (near * 0.12f * Noise.At(p.X * 140f, p.Z * 140f, 113));
        var sand = new Vector3(0.47f, 0.375f, 0.255f) * grain;
        var growth = recipe.Green * Maths.Smooth(0.12f, 0.5f, (p.Y / MathF.Max(recipe.Dune, 0.5f)) - 0.32f + (0.75f * Noise.Sum(p.X * 0.16f, p.Z * 0.16f, 4, seed + 120)))
            * Maths.Smooth(0f, 12f, inland - recipe.Shore - recipe.DuneFrom);
        var tuft = 0.7f + (0.5f * Noise.Sum(p.X * 2.3f, p.Z * 2.3f, 3, seed + 130));
        var albedo = Maths.Mix(sand, new Vector3(0.150f, 0.138f, 0.070f) * tuft, Math.Clamp(growth, 0f, 0.92f));
        if (growth > 0.1f)
        {
            normal += new Vector3(Noise.At(p.X * 4f, p.Z * 4f, 131), 0, Noise.At(p.X * 4f, p.Z * 4f, 132)) * growth * 0.55f;
        }

        if (recipe.Snow)
        {
            var lying = Maths.Smooth(-0.25f, 0.2f, Noise.Sum(p.X * 0.35f, p.Z * 0.35f, 5, seed + 140) + (0.4f * (normal.Y - 0.9f)) + 0.12f) * (1f - wet);
            albedo = Maths.Mix(albedo, new Vector3(0.80f, 0.82f, 0.86f), lying);
        }

        albedo = Maths.Mix(albedo, albedo * new Vector3(0.42f, 0.40f, 0.40f), wet);
        return (new Surface { Albedo = albedo, Normal = Vector3.Normalize(normal), Gloss = 0f }, wet);
    }

    Vector3 Trodden(Vector3 p)
    {
        var (x, z) = (p.X * 1.7f, p.Z * 1.7f);
        var (cx, cz) = ((int)MathF.Floor(x), (int)MathF.Floor(z));
        var sum = Vector3.Zero;
        for (var i = -1; i <= 1; i++)
        {
            for (var k = -1; k <= 1; k++)
            {
                if (Noise.Cell(cx + i, cz + k, seed + 1) < 0.55f)
                {
                    continue;
                }

                var centre = new Vector2(cx + i + Noise.Cell(cx + i, cz + k, 151), cz + k + Noise.Cell(cx + i, cz + k, 152));
                var away = new Vector2(x, z) - centre;
                var square = away.LengthSquared();
                if (square < 0.16f)
                {
                    var slope = (0.16f - square) * 5f;
                    sum += new Vector3(away.X, 0, away.Y) * slope * 1.4f;
                }
            }
        }

        return sum;
    }

    /// <summary>The sea's moving normal, its own colour, and how much foam lies on it.</summary>
    public (Vector3 Normal, Vector3 Colour, float Foam) Sea(Vector3 p, float distance)
    {
        var (along, across) = ((p.X * seaward.Y) - (p.Z * seaward.X), (p.X * seaward.X) + (p.Z * seaward.Y));
        var far = MathF.Min(1f, 26f / (distance + 8f));
        var swell = recipe.Wave;
        Vector2 Slope(float scale, float strength, int layer) => new Vector2(
            Noise.At(along * scale * 0.45f, across * scale, seed + layer), Noise.At((along * scale * 0.45f) + 31.7f, (across * scale) + 11.3f, seed + layer)) * strength;
        var slope = Slope(0.12f, 0.10f, 1) + Slope(0.45f, 0.11f, 2) + (Slope(1.6f, 0.10f, 3) * MathF.Sqrt(far)) + (Slope(6f, 0.07f, 4) * far);
        slope *= swell;
        var tangent = new Vector2((slope.X * seaward.Y) + (slope.Y * seaward.X), (-slope.X * seaward.X) + (slope.Y * seaward.Y));
        var normal = Vector3.Normalize(new Vector3(tangent.X, 1f, tangent.Y));
        var depth = -Inland(p.X, p.Z);
        var shallow = MathF.Exp(-depth * 0.05f);
        var colour = Maths.Mix(new Vector3(0.008f, 0.040f, 0.050f), new Vector3(0.13f, 0.15f, 0.115f), shallow);
        var wash = Noise.Sum(along * 0.09f, across * 0.3f, 4, seed + 7);
        var foam = 0f;
        foreach (var (line, width) in ((float, float)[])[(1.2f, 2.2f), (11f, 2.6f), (26f, 2.2f), (47f, 1.6f)])
        {
            var bend = line + (6f * Noise.At(along * 0.035f, line, seed + 8)) + (2.2f * wash);
            var present = Maths.Smooth(-0.15f, 0.25f, Noise.At((along * 0.022f) + line, line * 3f, seed + 9) + (0.5f - (line * 0.012f)));
            foam = MathF.Max(foam, present * Maths.Smooth(width, 0f, MathF.Abs(depth - bend)) * Maths.Smooth(-0.35f, 0.25f, Noise.Sum(along * 0.9f, across * 1.8f, 4, seed + 10) + 0.12f));
        }

        return (normal, colour, foam * MathF.Min(1f, swell * 1.2f));
    }

    /// <summary>Far land over the sea: how high it stands in one direction, degrees.</summary>
    public float Headland(float azimuth) =>
        recipe.Headland * MathF.Max(0f, Noise.Sum(azimuth * 0.035f, seed * 0.37f, 5, 201) + 0.28f + (0.02f * MathF.Cos((azimuth - recipe.Sea - 62f) * Maths.Degree)))
        * Maths.Smooth(8f, 34f, MathF.Abs(azimuth - recipe.Sea + (12f * Noise.At(seed, 3f))));
}
