using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>How a point of a surface answers light. Colours are linear.</summary>
internal struct Surface
{
    public Vector3 Albedo;
    /// <summary>Colour of light that comes through from behind.</summary>
    public Vector3 Through;
    public Vector3 Emits;
    public float Gloss;
    public float Roughness;
    public Vector3 Normal;
}

internal abstract class Material
{
    public abstract Surface At(in Hit hit);
}

internal sealed class Plain(Vector3 albedo, float gloss = 0, float roughness = 0.5f, Vector3 through = default) : Material
{
    public override Surface At(in Hit hit) => new() { Albedo = albedo, Gloss = gloss, Roughness = roughness, Through = through, Normal = hit.Normal };
}

internal sealed class Glowing(Vector3 emits) : Material
{
    public override Surface At(in Hit hit) => new() { Emits = emits, Albedo = new Vector3(0.4f), Normal = hit.Normal };
}

/// <summary>Thin sail cloth: coloured panels with seams and the fine grid of its weave; light shines through it.</summary>
internal sealed class SailCloth(Vector3[] colours, string pattern, float glow = 0, float weave = 0, float panelScale = 1, float wrinkle = 0.06f) : Material
{
    public override Surface At(in Hit hit)
    {
        var (colour, seam) = Paint(hit.Uv);
        var stitched = Vector3.One;
        var normal = hit.Normal;
        if (weave > 0)
        {
            (normal, stitched) = Weave(hit, seam);
        }

        var crinkle = new Vector3(Noise.At(hit.Uv.X * 9f, hit.Uv.Y * 9f, 21), Noise.At(hit.Uv.X * 9f, hit.Uv.Y * 9f, 22), Noise.At(hit.Uv.X * 9f, hit.Uv.Y * 9f, 23));
        normal = Vector3.Normalize(normal + (crinkle * wrinkle));
        var worn = 0.94f + (0.10f * Noise.Sum(hit.Uv.X * 6f, hit.Uv.Y * 6f, 3, 31));
        var dark = seam < 0.012f / panelScale ? 0.55f : 1f;
        var albedo = colour * (worn * dark) * stitched;
        // Dyed nylon passes its own colour more purely than it reflects it.
        var through = new Vector3(MathF.Pow(albedo.X, 1.35f), MathF.Pow(albedo.Y, 1.35f), MathF.Pow(albedo.Z, 1.35f)) * (dark < 1 ? 0.35f : 0.95f);
        return new Surface { Albedo = albedo * 0.82f, Through = through, Emits = colour * (0.34f * glow * dark), Gloss = 0.035f, Roughness = 0.28f, Normal = normal };
    }

    (Vector3 Normal, Vector3 Tint) Weave(in Hit hit, float seam)
    {
        var (x, y) = (hit.Uv.X * weave, hit.Uv.Y * weave);
        float Cord(float v) => MathF.Pow(MathF.Abs(MathF.Cos(v * MathF.PI)), 14f);
        var grid = MathF.Max(Cord(x), Cord(y));
        var threads = MathF.Sin(x * 44f) * MathF.Sin(y * 44f);
        var (along, across) = Maths.Basis(hit.Normal);
        var bump = (along * (0.10f * MathF.Sin(x * 44f))) + (across * (0.10f * MathF.Sin(y * 44f)));
        bump += (along * (0.3f * grid * MathF.Sin(2f * MathF.PI * x))) + (across * (0.3f * grid * MathF.Sin(2f * MathF.PI * y)));
        var tint = new Vector3(0.93f + (0.05f * threads) + (0.09f * grid));
        // Zig-zag stitches run along both sides of a seam.
        var stitch = MathF.Abs(seam - 0.03f) < 0.004f + (0.004f * MathF.Sin((hit.Uv.X + hit.Uv.Y) * 900f)) && MathF.Sin((hit.Uv.X + hit.Uv.Y) * 420f) > -0.35f;
        return (Vector3.Normalize(hit.Normal + bump), stitch ? new Vector3(1.5f) : tint);
    }

    /// <summary>Colour at a place of the sail and the distance to the nearest seam; uv is 0 to 1 across and along.</summary>
    (Vector3 Colour, float Seam) Paint(Vector2 uv)
    {
        var (x, y) = (MathF.Abs(uv.X - 0.5f) * 2f, uv.Y);
        Vector3 Pick(int i) => colours[((i % colours.Length) + colours.Length) % colours.Length];
        float Edge(float v) => MathF.Abs(v - MathF.Round(v));
        switch (pattern)
        {
            case "stripes":
                return (Pick((int)MathF.Floor(uv.X * 8f)), Edge(uv.X * 8f) / 8f);
            case "bands":
                return (Pick((int)MathF.Floor(y * 6f)), Edge(y * 6f) / 6f);
            case "chevron":
                var c = (y * 5f) + (x * 2.4f);
                return (Pick((int)MathF.Floor(c)), Edge(c) / 6f);
            case "sunburst":
                var turn = MathF.Atan2(uv.X - 0.5f, 1.05f - y) * 9f / MathF.PI;
                return (Pick((int)MathF.Floor(turn + 20f)), Edge(turn) * 0.1f);
            case "checks":
                return (Pick((int)MathF.Floor(uv.X * 7f) + (int)MathF.Floor(y * 7f)), MathF.Min(Edge(uv.X * 7f), Edge(y * 7f)) / 7f);
            case "roundel":
                var r = MathF.Sqrt(((uv.X - 0.5f) * (uv.X - 0.5f)) + ((y - 0.55f) * (y - 0.55f))) * 5.2f;
                return (Pick(Math.Min((int)r, 2)), r < 2.6f ? Edge(r) / 5f : 0.1f);
            case "halves":
                return (Pick(uv.X < 0.5f ? 0 : 1), MathF.Abs(uv.X - 0.5f));
            case "plain":
                return (Pick(0), 0.2f);
            default:
                var edge = (0.86f - y) * 1.15f;
                var inner = x < edge * 0.45f ? 0 : x < edge ? 1 : 2;
                return (Pick(inner), MathF.Min(MathF.Abs(x - (edge * 0.45f)), MathF.Abs(x - edge)) * 0.5f);
        }
    }
}

/// <summary>Wood with its rings and grain, cut along <c>x</c>.</summary>
internal sealed class Timber(Vector3 light, Vector3 dark, float scale = 1, float gloss = 0.03f) : Material
{
    public override Surface At(in Hit hit)
    {
        var p = hit.Point * scale;
        var plank = MathF.Floor(p.Z * 5.2f);
        var shift = Noise.Cell((int)plank, 3) * 17f;
        var wander = Noise.Sum((p.X * 0.9f) + shift, (p.Z * 5f) + shift, 4, 41);
        var rings = 0.5f + (0.5f * MathF.Sin(((p.Z * 46f) + (wander * 16f) + (shift * 9f)) + (p.X * 0.8f)));
        var pores = Noise.Sum((p.X * 12f) + shift, p.Z * 420f, 3, 43);
        var tone = Math.Clamp((0.55f * rings) + (0.55f * pores) + 0.2f + (0.35f * (Noise.Cell((int)plank, 5) - 0.5f)), 0f, 1f);
        var gap = MathF.Abs((p.Z * 5.2f) - MathF.Round(p.Z * 5.2f)) < 0.012f ? 0.25f : 1f;
        var normal = Vector3.Normalize(hit.Normal + new Vector3(0.02f * pores, 0f, 0.10f * pores));
        return new Surface { Albedo = Maths.Mix(light, dark, tone) * gap, Gloss = gloss * gap, Roughness = 0.25f, Normal = normal };
    }
}

/// <summary>Line laid up from three strands, or wound side by side on a spool.</summary>
internal sealed class Twine(Vector3 colour, float lay, float fleck = 0) : Material
{
    public override Surface At(in Hit hit)
    {
        var phase = ((hit.Uv.X * lay) + (hit.Uv.Y * 3f)) * 2f * MathF.PI;
        var hollow = 0.5f + (0.5f * MathF.Cos(phase));
        var (along, _) = Maths.Basis(hit.Normal);
        var normal = Vector3.Normalize(hit.Normal + (along * (0.55f * MathF.Sin(phase))));
        var speck = fleck > 0 && MathF.Sin((hit.Uv.X * lay * 0.7f) + (hit.Uv.Y * 6.28f)) > 0.86f ? 0.35f : 1f;
        return new Surface { Albedo = colour * ((0.45f + (0.55f * hollow)) * speck), Through = colour * 0.08f, Gloss = 0.03f, Roughness = 0.35f, Normal = normal };
    }
}

/// <summary>A drawing on paper: outlines of a kite with centre lines, measures and a pencilled note.</summary>
internal sealed class Drawing(Vector3 paper, Vector3 ink) : Material
{
    static float Stroke(Vector2 p, Vector2 a, Vector2 b)
    {
        var ab = b - a;
        var t = Math.Clamp(Vector2.Dot(p - a, ab) / ab.LengthSquared(), 0f, 1f);
        return (p - a - (ab * t)).Length();
    }

    public override Surface At(in Hit hit)
    {
        var p = hit.Uv;
        Vector2 nose = new(0.5f, 0.12f), left = new(0.12f, 0.62f), right = new(0.88f, 0.62f), tail = new(0.5f, 0.9f);
        var outline = MathF.Min(MathF.Min(Stroke(p, nose, left), Stroke(p, nose, right)), MathF.Min(Stroke(p, left, tail), Stroke(p, right, tail)));
        var spine = Stroke(p, nose, tail);
        var cross = Stroke(p, left, right);
        var dash = MathF.Sin((p.X + p.Y) * 190f) > -0.1f ? 1f : 0f;
        var line = MathF.Max(1f - (outline / 0.0035f), MathF.Max(dash * (1f - (spine / 0.002f)), dash * (1f - (cross / 0.002f))));
        var grid = MathF.Max(Rule(p.X * 28f), Rule(p.Y * 28f)) * 0.14f;
        var written = p.X is > 0.62f and < 0.92f && p.Y is > 0.1f and < 0.3f && MathF.Abs((p.Y * 40f) - MathF.Round(p.Y * 40f) + (0.22f * MathF.Sin(p.X * 260f) * MathF.Sin(p.X * 97f))) < 0.1f ? 0.75f : 0f;
        var dark = Math.Clamp(MathF.Max(line, written) + grid, 0f, 1f);
        var tone = 0.97f + (0.05f * Noise.Sum(p.X * 20f, p.Y * 20f, 4, 51));
        return new Surface { Albedo = Maths.Mix(paper * tone, ink, dark), Through = paper * 0.05f, Normal = hit.Normal };
    }

    static float Rule(float v) => MathF.Abs(v - MathF.Round(v)) < 0.02f ? 1f : 0f;
}

/// <summary>A ruler's edge with its graduations, length along u in metres.</summary>
internal sealed class Graduated(Vector3 ground, Vector3 marks) : Material
{
    public override Surface At(in Hit hit)
    {
        var millimetre = hit.Uv.X * 1000f;
        var whole = (int)MathF.Round(millimetre);
        var reach = whole % 10 == 0 ? 0.5f : whole % 5 == 0 ? 0.36f : 0.24f;
        var mark = MathF.Abs(millimetre - whole) < 0.14f && hit.Uv.Y < reach;
        return new Surface { Albedo = mark ? marks : ground, Gloss = 0.12f, Roughness = 0.3f, Normal = hit.Normal };
    }
}

/// <summary>Named dyes of the Guild's cloth, linear.</summary>
internal static class Dye
{
    public static Vector3 Of(string name) => name switch
    {
        "vermilion" => new(0.72f, 0.075f, 0.028f),
        "marigold" => new(0.86f, 0.43f, 0.022f),
        "lemon" => new(0.86f, 0.70f, 0.06f),
        "leaf" => new(0.055f, 0.30f, 0.085f),
        "teal" => new(0.012f, 0.25f, 0.29f),
        "sky" => new(0.14f, 0.42f, 0.75f),
        "ultramarine" => new(0.022f, 0.05f, 0.40f),
        "plum" => new(0.24f, 0.022f, 0.16f),
        "rose" => new(0.78f, 0.17f, 0.27f),
        "cream" => new(0.84f, 0.79f, 0.66f),
        "white" => new(0.88f, 0.88f, 0.87f),
        "ink" => new(0.018f, 0.019f, 0.026f),
        "slate" => new(0.13f, 0.15f, 0.18f),
        "rust" => new(0.33f, 0.085f, 0.025f),
        "sand" => new(0.52f, 0.41f, 0.27f),
        _ => throw new ArgumentException($"There is no dye called {name}."),
    };

    public static Vector3[] All(string[] names) => Array.ConvertAll(names, Of);

    public static readonly string[][] Sets =
    [
        ["vermilion", "cream", "ink"], ["teal", "marigold", "cream"], ["plum", "rose", "cream"], ["ultramarine", "white", "vermilion"],
        ["leaf", "lemon", "white"], ["marigold", "vermilion", "plum"], ["sky", "white", "ultramarine"], ["ink", "lemon", "white"], ["rust", "cream", "teal"], ["rose", "marigold", "white"],
    ];
}
