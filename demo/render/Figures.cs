using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>A person at a distance: limbs blended into one soft form, dressed, in one of a few stances.</summary>
internal sealed class Figure : Body
{
    readonly record struct Limb(Vector3 A, Vector3 B, float Ra, float Rb, int Part);

    static readonly Vector3[] Cloths = [.. ((string[])["ultramarine", "slate", "vermilion", "teal", "cream", "marigold", "plum", "leaf", "rose", "ink", "sand", "rust", "lemon", "sky"]).Select(Dye.Of)];
    static readonly Vector3[] Skins = [new(0.44f, 0.26f, 0.18f), new(0.34f, 0.19f, 0.12f), new(0.19f, 0.10f, 0.06f), new(0.48f, 0.30f, 0.22f)];
    static readonly Vector3[] Hairs = [new(0.03f, 0.02f, 0.015f), new(0.10f, 0.055f, 0.025f), new(0.19f, 0.11f, 0.05f), new(0.17f, 0.16f, 0.155f)];

    readonly List<Limb> limbs = [];
    readonly Material[] parts;
    readonly Vector3 centre;
    readonly float radius;

    public Figure(Vector3 feet, float height, float facing, string pose, ref Rng rng)
        : base(new Plain(Vector3.One))
    {
        var s = height / 1.72f;
        var turn = Quaternion.CreateFromAxisAngle(Vector3.UnitY, facing * Maths.Degree);
        Vector3 P(float x, float y, float z) => feet + Vector3.Transform(new Vector3(x, y, z) * s, turn);
        void Add(Vector3 a, Vector3 b, float ra, float rb, int part) => limbs.Add(new Limb(a, b, ra * s, rb * s, part));
        var stride = pose == "walk" ? rng.Range(0.14f, 0.24f) : pose is "fly" or "pull" ? 0.14f : rng.Range(0.0f, 0.05f);
        var sway = rng.Range(-0.03f, 0.03f);
        var lean = pose == "pull" ? -0.20f : pose == "fly" ? -0.07f : 0.0f;
        var hip = pose == "sit" ? 0.30f : 0.90f;
        Vector3 hipL = P(-0.09f, hip, 0), hipR = P(0.09f, hip, 0);
        if (pose == "sit")
        {
            foreach (var x in (float[])[-0.1f, 0.1f])
            {
                Add(P(x, hip - 0.1f, 0), P(x * 1.3f, hip + 0.12f, 0.42f), 0.09f, 0.065f, 0);
                Add(P(x * 1.3f, hip + 0.12f, 0.42f), P(x * 1.2f, 0.05f, 0.56f), 0.062f, 0.045f, 0);
            }
        }
        else
        {
            Add(hipL, P(-0.10f, 0.48f, stride * 0.6f), 0.095f, 0.065f, 0);
            Add(P(-0.10f, 0.48f, stride * 0.6f), P(-0.11f, 0.07f, stride), 0.062f, 0.042f, 0);
            Add(P(-0.11f, 0.05f, stride - 0.03f), P(-0.12f, 0.04f, stride + 0.14f), 0.045f, 0.035f, 4);
            Add(hipR, P(0.10f, 0.48f, -stride * 0.2f), 0.095f, 0.065f, 0);
            Add(P(0.10f, 0.48f, -stride * 0.2f), P(0.11f, 0.07f, -stride), 0.062f, 0.042f, 0);
            Add(P(0.11f, 0.05f, -stride - 0.03f), P(0.12f, 0.04f, -stride + 0.14f), 0.045f, 0.035f, 4);
        }

        var chest = hip + 0.45f;
        // A coat hangs straight from the shoulders to below the hips.
        var hem = hip - (pose == "sit" ? 0.02f : 0.13f);
        foreach (var x in (float[])[-0.075f, 0.075f])
        {
            Add(P(x, hem, 0), P(x + sway, chest - 0.08f, lean * 0.7f), 0.125f, 0.112f, 1);
        }

        Add(P(-0.12f + sway, chest, lean), P(0.12f + sway, chest, lean), 0.085f, 0.085f, 1);
        var head = P(sway * 1.4f, chest + 0.27f, (lean * 1.1f) + 0.02f);
        Add(P(sway, chest + 0.05f, lean), P(sway, chest + 0.13f, lean), 0.082f, 0.068f, 1);
        Add(P(sway, chest + 0.10f, lean), head, 0.05f, 0.055f, 2);
        Add(head, P(sway * 1.4f, chest + 0.30f, (lean * 1.1f) + 0.02f), 0.088f, 0.09f, 2);
        var hat = rng.Next() < 0.35f;
        Add(P(sway * 1.4f, chest + 0.355f, (lean * 1.1f) - 0.005f), P(sway * 1.4f, chest + 0.29f, (lean * 1.1f) - 0.05f), 0.094f, 0.1f, hat ? 5 : 3);
        Vector3 left = P(-0.21f, chest - 0.02f, lean), right = P(0.21f, chest - 0.02f, lean);
        (Vector3 El, Vector3 Hl, Vector3 Er, Vector3 Hr) arms = pose switch
        {
            "fly" or "pull" => (P(-0.25f, chest - 0.20f, 0.16f), P(-0.14f, chest - 0.04f, 0.42f), P(0.25f, chest - 0.18f, 0.18f), P(0.12f, chest + 0.05f, 0.45f)),
            "launch" => (P(-0.28f, chest + 0.18f, 0.10f), P(-0.22f, chest + 0.46f, 0.16f), P(0.28f, chest + 0.18f, 0.10f), P(0.22f, chest + 0.46f, 0.16f)),
            "point" => (P(-0.26f, chest - 0.26f, 0.02f), P(-0.22f, chest - 0.48f, 0.10f), P(0.34f, chest + 0.06f, 0.20f), P(0.46f, chest + 0.22f, 0.40f)),
            "sit" => (P(-0.27f, chest - 0.24f, 0.10f), P(-0.12f, chest - 0.32f, 0.32f), P(0.27f, chest - 0.24f, 0.10f), P(0.12f, chest - 0.32f, 0.32f)),
            _ => (P(-0.27f, chest - 0.28f, -stride * 0.5f), P(-0.25f, chest - 0.53f, (-stride * 0.5f) + 0.08f), P(0.27f, chest - 0.28f, stride * 0.5f), P(0.25f, chest - 0.53f, (stride * 0.5f) + 0.08f)),
        };
        Add(left, arms.El, 0.068f, 0.06f, 1);
        Add(arms.El, arms.Hl, 0.058f, 0.048f, 1);
        Add(arms.Hl, arms.Hl, 0.042f, 0.042f, 2);
        Add(right, arms.Er, 0.068f, 0.06f, 1);
        Add(arms.Er, arms.Hr, 0.058f, 0.048f, 1);
        Add(arms.Hr, arms.Hr, 0.042f, 0.042f, 2);
        if (rng.Next() < 0.4f && pose != "sit")
        {
            // A longer coat, wider at its hem.
            Add(P(-0.06f, hip - 0.26f, -0.01f), P(-0.05f, hip + 0.1f, 0), 0.14f, 0.12f, 1);
            Add(P(0.06f, hip - 0.26f, -0.01f), P(0.05f, hip + 0.1f, 0), 0.14f, 0.12f, 1);
        }

        // What people wear on a windy beach has been washed often: half the dye's colour is left.
        Material Cloth(Vector3 c, ref Rng r)
        {
            var worn = Vector3.Lerp(new Vector3(Vector3.Dot(c, new Vector3(0.2126f, 0.7152f, 0.0722f))), c, 0.5f) * r.Range(0.45f, 0.85f);
            return new Plain(worn, 0.01f, 0.6f, worn * 0.04f);
        }


        var trousers = rng.Next() < 0.55f ? Dye.Of("ultramarine") * 0.5f : Cloths[rng.Below(Cloths.Length)] * 0.55f;
        parts =
        [
            Cloth(trousers + new Vector3(0.01f), ref rng), Cloth(Cloths[rng.Below(Cloths.Length)], ref rng), new Plain(Skins[rng.Below(Skins.Length)], 0.02f),
            new Plain(Hairs[rng.Below(Hairs.Length)], 0.03f), new Plain(new Vector3(0.06f)), Cloth(Cloths[rng.Below(Cloths.Length)], ref rng),
        ];
        centre = feet + new Vector3(0, 0.9f * s, 0);
        radius = 1.25f * s;
    }

    public override (Vector3 Low, Vector3 High) Bounds => (centre - new Vector3(radius), centre + new Vector3(radius));

    static float Away(Vector3 p, in Limb limb)
    {
        var ab = limb.B - limb.A;
        var square = ab.LengthSquared();
        var t = square < 1e-9f ? 0f : Math.Clamp(Vector3.Dot(p - limb.A, ab) / square, 0f, 1f);
        return (p - limb.A - (ab * t)).Length() - Maths.Mix(limb.Ra, limb.Rb, t);
    }

    float Away(Vector3 p, out int part)
    {
        // Limbs melt into one another by the polynomial smooth minimum.
        const float soft = 0.045f;
        var (sum, best) = (9f, 9f);
        part = 0;
        foreach (var limb in limbs)
        {
            var d = Away(p, limb);
            if (d < best)
            {
                (best, part) = (d, limb.Part);
            }

            var h = MathF.Max(soft - MathF.Abs(sum - d), 0f) / soft;
            sum = MathF.Min(sum, d) - (h * h * soft * 0.25f);
        }

        return sum + (0.012f * Noise.At(p * 9f)) + (0.0025f * Noise.At(p * 24f));
    }

    public override bool Meet(in Ray ray, ref Hit hit, ref Rng rng)
    {
        var o = ray.Origin - centre;
        var b = Vector3.Dot(o, ray.Direction);
        var d = (b * b) - Vector3.Dot(o, o) + (radius * radius);
        if (d < 0)
        {
            return false;
        }

        var root = MathF.Sqrt(d);
        var t = MathF.Max(0.01f, -b - root);
        var end = MathF.Min(hit.T, -b + root);
        for (var i = 0; i < 48 && t < end; i++)
        {
            var p = ray.At(t);
            var away = Away(p, out var part);
            if (away < 0.002f)
            {
                const float e = 0.006f;
                hit.T = t;
                hit.Point = p;
                hit.Normal = Vector3.Normalize(new Vector3(
                    Away(p + new Vector3(e, 0, 0), out _) - Away(p - new Vector3(e, 0, 0), out _),
                    Away(p + new Vector3(0, e, 0), out _) - Away(p - new Vector3(0, e, 0), out _),
                    Away(p + new Vector3(0, 0, e), out _) - Away(p - new Vector3(0, 0, e), out _)));
                hit.Material = parts[part];
                return true;
            }

            t += away * 0.92f;
        }

        return false;
    }
}
