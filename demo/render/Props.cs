using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>What stands about on a strand: people, grass, banners, tents, lights.</summary>
internal sealed class Props(List<Body> bodies, List<Lamp> lamps, Func<float, float, float> height, Vector3 eye, float pixelAngle)
{
    Vector3 Stand(float azimuth, float distance)
    {
        var p = eye + (Maths.Direction(azimuth, 0) * distance);
        return p with { Y = MathF.Max(-0.05f, height(p.X, p.Z)) };
    }

    public void People(CrowdRecipe crowd, ref Rng rng)
    {
        for (var i = 0; i < crowd.Count; i++)
        {
            var spot = Stand(crowd.Az, crowd.Distance);
            if (crowd.Count > 1)
            {
                spot += new Vector3(rng.Gauss() * crowd.Spread, 0, rng.Gauss() * crowd.Spread * 0.8f);
                spot.Y = MathF.Max(-0.05f, height(spot.X, spot.Z));
            }

            var pose = crowd.Pose == "mixed" ? ((string[])["stand", "stand", "walk", "point", "sit", "walk"])[rng.Below(6)] : crowd.Pose;
            var tall = crowd.Height * (rng.Next() < 0.25f && crowd.Pose == "mixed" ? rng.Range(0.62f, 0.8f) : rng.Range(0.94f, 1.06f));
            bodies.Add(new Figure(spot, tall, crowd.Facing ?? rng.Range(-180, 180), pose, ref rng));
        }
    }

    public void Grass(float amount, ref Rng rng)
    {
        var count = (int)(amount * 5200);
        for (var i = 0; i < count; i++)
        {
            var tuft = Stand(rng.Range(-62, 62), 0.9f + (MathF.Pow(rng.Next(), 1.6f) * 13f));
            if (Noise.Sum(tuft.X * 0.8f, tuft.Z * 0.8f, 3, 301) < -0.05f)
            {
                continue;
            }

            tuft += new Vector3(rng.Range(-0.15f, 0.15f), 0, rng.Range(-0.15f, 0.15f));
            var length = rng.Range(0.35f, 0.95f);
            var bend = new Vector3(0.55f + rng.Range(-0.35f, 0.35f), 0, rng.Range(-0.35f, 0.35f)) * length;
            var dry = rng.Next();
            var green = Maths.Mix(new Vector3(0.10f, 0.125f, 0.04f), new Vector3(0.46f, 0.37f, 0.17f), dry);
            var material = new Plain(green, 0.03f, 0.35f, green * 0.5f);
            var last = tuft - new Vector3(0, 0.04f, 0);
            for (var k = 1; k <= 4; k++)
            {
                var t = k / 4f;
                var next = tuft + new Vector3(bend.X * t * t, length * (t - (0.22f * t * t)), bend.Z * t * t);
                bodies.Add(new Rod(material, last, next, 0.0042f * (1.1f - ((k - 1) / 4f)), 0.0042f * (1.1f - t), pixelAngle));
                last = next;
            }
        }
    }

    public void Banners(int count, ref Rng rng)
    {
        var kites = new Kites(bodies, pixelAngle);
        for (var i = 0; i < count; i++)
        {
            var foot = Stand(-34 + (68f * (i + rng.Range(0.1f, 0.9f)) / count), rng.Range(22, 46));
            var tall = rng.Range(3.6f, 5.2f);
            var colours = Dye.Sets[rng.Below(Dye.Sets.Length)];
            var cloth = new SailCloth(Dye.All(colours), ((string[])["bands", "halves", "stripes"])[rng.Below(3)]);
            var phase = rng.Range(0, 6);
            Vector3 Mast(float t) => foot + new Vector3(0.75f * t * t * t, tall * t, 0);
            for (var k = 0; k < 8; k++)
            {
                bodies.Add(new Rod(new Plain(new Vector3(0.35f), 0.05f), Mast(k / 8f), Mast((k + 1) / 8f), 0.022f, 0.018f, pixelAngle));
            }

            kites.Mesh(cloth, 14, 5, (u, v) => Mast(1f - (v * 0.8f)) + new Vector3(u * (0.75f - (0.25f * v)), -0.08f * u, 0.10f * MathF.Sin((u * 4f) + (v * 7f) + phase) * u), (u, v) => new Vector2(u, v));
        }
    }

    public void Tents(int count, ref Rng rng)
    {
        var kites = new Kites(bodies, pixelAngle);
        for (var i = 0; i < count; i++)
        {
            var foot = Stand(-30 + (60f * (i + rng.Range(0.2f, 0.8f)) / count), rng.Range(34, 60));
            var colours = Dye.Sets[rng.Below(Dye.Sets.Length)];
            var cloth = new SailCloth(Dye.All([colours[0], "white"]), "stripes");
            const float half = 2.1f;
            for (var side = 0; side < 4; side++)
            {
                var turn = Quaternion.CreateFromAxisAngle(Vector3.UnitY, (side * 90 + 20) * Maths.Degree);
                Vector3 P(float x, float y, float z) => foot + Vector3.Transform(new Vector3(x, y, z), turn);
                kites.Mesh(cloth, 8, 8, (u, v) => P((u - 0.5f) * 2f * half * (0.02f + (0.98f * MathF.Pow(v, 0.8f))), 4.1f - (1.9f * MathF.Pow(v, 0.72f)), half * MathF.Pow(v, 0.8f)), (u, v) => new Vector2(u, v));
                kites.Mesh(cloth, 2, 10, (u, v) => P((u - 0.5f) * 2f * half, 2.2f - (v * (0.28f + (0.07f * MathF.Abs(MathF.Sin(u * 20f))))), half), (u, v) => new Vector2(u, v));
                bodies.Add(new Rod(new Plain(new Vector3(0.6f)), P(half, 0, half), P(half, 2.2f, half), 0.03f, 0.03f, pixelAngle));
            }
        }
    }

    public void Lanterns(int count, ref Rng rng)
    {
        for (var i = 0; i < count; i++)
        {
            var spot = Stand(rng.Range(-30, 30), 6f + (rng.Next() * rng.Next() * 50f)) + new Vector3(0, 0.16f, 0);
            var warm = new Vector3(1f, rng.Range(0.38f, 0.55f), rng.Range(0.08f, 0.2f));
            bodies.Add(new Ball(new Glowing(warm * 7f), spot, 0.085f));
            lamps.Add(new Lamp(spot + new Vector3(0, 0.12f, 0), warm * 1.6f, 0.1f));
        }
    }

    public void Fire(ref Rng rng)
    {
        var foot = Stand(-7, 17);
        for (var i = 0; i < 9; i++)
        {
            var (s, c) = MathF.SinCos(i * 0.7f);
            bodies.Add(new Rod(new Plain(new Vector3(0.06f, 0.035f, 0.02f)), foot + new Vector3(c * 0.7f, 0.02f, s * 0.7f), foot + new Vector3(-c * 0.1f, 0.75f, -s * 0.1f), 0.07f, 0.05f));
        }

        for (var i = 0; i < 70; i++)
        {
            var h = rng.Next();
            var sway = (1f - (h * 0.8f)) * 0.34f;
            var at = foot + new Vector3(rng.Gauss() * sway * 0.6f, 0.15f + (h * 1.35f), rng.Gauss() * sway * 0.6f);
            bodies.Add(new Ball(new Glowing(Maths.Mix(new Vector3(9f, 4.6f, 1.1f), new Vector3(3.2f, 0.7f, 0.06f), h)), at, 0.05f + (0.10f * (1f - h) * rng.Next())));
        }

        for (var i = 0; i < 46; i++)
        {
            bodies.Add(new Ball(new Glowing(new Vector3(5f, 1.8f, 0.3f)), foot + new Vector3(rng.Gauss() * 0.8f + 0.5f, rng.Range(1.2f, 4.6f), rng.Gauss() * 0.6f), 0.011f));
        }

        lamps.Add(new Lamp(foot + new Vector3(0, 0.9f, 0), new Vector3(26f, 11.5f, 3.0f), 0.5f));
    }

    /// <summary>The path of a lit kite while the shutter was open.</summary>
    public void Trail(TrailRecipe trail, ref Rng rng)
    {
        var middle = eye + (Maths.Direction(trail.Az, trail.El) * trail.Distance);
        var right = Vector3.Normalize(Vector3.Cross(Vector3.UnitY, Maths.Direction(trail.Az, 0)));
        var colour = Dye.Of(trail.Colour);
        var phase = rng.Range(0, 6);
        Vector3 Path(float t)
        {
            var a = t * 2f * MathF.PI;
            var (x, y) = trail.Figure switch
            {
                "eight" => (MathF.Sin(a), 0.45f * MathF.Sin(2f * a)),
                "spiral" => ((0.15f + (0.85f * t)) * MathF.Cos(3f * a), (0.15f + (0.85f * t)) * 0.7f * MathF.Sin(3f * a)),
                "sweep" => ((2f * t) - 1f, (0.5f * MathF.Sin((a * 1.5f) + phase)) * (1f - (0.4f * t))),
                _ => (((2f * t) - 1f) + (0.28f * MathF.Cos((5f * a) + phase)), 0.34f * MathF.Sin((5f * a) + phase)),
            };
            return middle + (right * (x * trail.Size * 0.5f)) + (Vector3.UnitY * (y * trail.Size * 0.5f)) + new Vector3(0, 0.02f * Noise.At(t * 40f, phase), 0);
        }

        const int pieces = 420;
        for (var i = 0; i < pieces; i++)
        {
            var bright = 0.55f + (0.45f * Noise.At(i * 0.11f, phase, 7));
            bodies.Add(new Rod(new Glowing(((colour * 1.9f) + new Vector3(0.12f)) * bright), Path((float)i / pieces), Path((i + 1f) / pieces), 0.035f, 0.035f, pixelAngle));
        }

        for (var i = 0; i < 8; i++)
        {
            lamps.Add(new Lamp(Path((i + 0.5f) / 8f), colour * (trail.Size * 0.5f), 0.4f));
        }
    }
}
