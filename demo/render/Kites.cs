using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>Builds kites: sails that billow between their spars, tails that hang in the wind, lines that sag.</summary>
internal sealed class Kites(List<Body> bodies, float pixelAngle)
{
    static readonly Plain Carbon = new(new Vector3(0.02f), 0.10f, 0.2f);

    /// <summary>Places one kite in the frame of the camera and hangs its tail and line on it.</summary>
    public void Add(KiteRecipe recipe, Vector3 eye, Func<float, float, float> height, ref Rng rng)
    {
        var toward = Maths.Direction(recipe.Az, recipe.El);
        var at = eye + (toward * recipe.Distance);
        // A kite turns its belly to the flier upwind and leans back by its angle to the wind.
        var side = Vector3.Normalize(Vector3.Cross(Vector3.UnitY, toward with { Y = 0 }));
        var facing = Maths.Turn(Maths.Turn(-Vector3.Normalize(toward with { Y = 0 }), side, recipe.Lean), Vector3.UnitY, recipe.Yaw);
        var across = Vector3.Normalize(Vector3.Cross(facing, Vector3.UnitY));
        var up = Vector3.Cross(across, facing);
        across = Maths.Turn(across, facing, recipe.Roll);
        up = Maths.Turn(up, facing, recipe.Roll);
        var place = new Placement(at, across * recipe.Size, up * recipe.Size, facing * recipe.Size);
        var cloth = new SailCloth(Dye.All(recipe.Colours), recipe.Pattern, recipe.Glow);
        var bottom = Build(recipe.Kind, place, cloth, recipe, ref rng);
        if (recipe.Tail > 0)
        {
            foreach (var end in bottom)
            {
                Tail(end, recipe.Tail, new SailCloth(Dye.All(recipe.Colours), "bands", recipe.Glow * 0.7f), recipe.Size, facing, ref rng);
            }
        }

        if (recipe.Line)
        {
            Tether(at + (facing * recipe.Size * 0.25f), recipe, eye, height);
        }
    }

    readonly record struct Placement(Vector3 At, Vector3 Across, Vector3 Up, Vector3 Out)
    {
        public Vector3 To(float x, float y, float z) => At + (Across * x) + (Up * y) + (Out * z);
    }

    Vector3[] Build(string kind, Placement p, SailCloth cloth, KiteRecipe recipe, ref Rng rng)
    {
        switch (kind)
        {
            case "delta":
                Sail(p, cloth, (s, t) => (s * 0.95f * t, 0.42f - (t * (0.55f + (0.22f * MathF.Abs(s)))) - (0.05f * (1f - MathF.Abs(s)) * t)), s => 0.22f * MathF.Sin(MathF.PI * s));
                Spar(p, (0, 0.42f), (0, -0.16f));
                Spar(p, (0, 0.42f), (-0.95f, -0.35f), (0, 0.42f), (0.95f, -0.35f), (-0.55f, -0.02f), (0.55f, -0.02f));
                return [p.To(0, -0.17f, 0)];
            case "stunt":
                Sail(p, cloth, (s, t) => (s * t, 0.26f - (t * 0.18f) - (0.36f * MathF.Abs(s) * t) - (0.16f * t * (1f - MathF.Pow(MathF.Abs(s), 0.7f)))), s => 0.16f * MathF.Sin(MathF.PI * s));
                Spar(p, (0, 0.26f), (-1f, -0.28f), (0, 0.26f), (1f, -0.28f), (-0.55f, -0.03f), (0.55f, -0.03f));
                return [p.To(-1f, -0.28f, 0), p.To(1f, -0.28f, 0)];
            case "diamond":
                Sail(p, cloth, (s, t) => (s * 0.5f * MathF.Min(t / 0.34f, (1f - t) / 0.66f), 0.5f - t), s => 0.13f * MathF.Sin(MathF.PI * s));
                Spar(p, (0, 0.5f), (0, -0.5f), (-0.5f, 0.16f), (0.5f, 0.16f));
                return [p.To(0, -0.5f, 0)];
            case "hex":
                Sail(p, cloth, (s, t) => (s * 0.42f * MathF.Min(1f, MathF.Min(0.001f + (t / 0.22f), 0.001f + ((1f - t) / 0.22f))), 0.5f - t), s => 0.12f * MathF.Sin(MathF.PI * s));
                Spar(p, (0, 0.5f), (0, -0.5f), (-0.42f, 0.28f), (0.42f, 0.28f), (-0.42f, -0.28f), (0.42f, -0.28f));
                return [p.To(0, -0.5f, 0)];
            case "foil":
                Foil(p, cloth);
                return [p.To(-0.5f, -0.35f, -0.1f), p.To(0.5f, -0.35f, -0.1f)];
            case "box":
                Box(p, cloth);
                return [];
            case "ray":
                Sail(p, cloth, (s, t) => (s * (0.12f + (0.85f * MathF.Sin(MathF.PI * MathF.Pow(t, 0.62f)) * (1f - (0.15f * MathF.Abs(s))))), 0.5f - t - (0.12f * s * s)), s => 0.34f * MathF.Sin(MathF.PI * s));
                return [p.To(0, -0.5f, 0)];
            case "train":
                for (var i = 0; i < 7; i++)
                {
                    var each = p with { At = p.To(0.10f * i, 0.85f * i, -0.15f * i), Across = p.Across * 0.42f, Up = p.Up * 0.42f, Out = p.Out * 0.42f };
                    Build("diamond", each, new SailCloth(Dye.All([recipe.Colours[i % recipe.Colours.Length], recipe.Colours[(i + 1) % recipe.Colours.Length]]), "halves", recipe.Glow), recipe, ref rng);
                    if (i > 0)
                    {
                        bodies.Add(new Rod(Carbon, p.To(0.10f * i, 0.85f * i, -0.15f * i), p.To(0.10f * (i - 1), 0.85f * (i - 1), -0.15f * (i - 1)), 0.002f, 0.002f, pixelAngle));
                    }
                }

                return [p.To(0, -0.2f, 0)];
            case "sock":
                Sock(p, cloth);
                return [];
            default:
                throw new ArgumentException($"There is no kite called {kind}.");
        }
    }

    /// <summary>A sail over s (−1 to 1 across) and t (0 nose to 1 trailing edge), bulging away from the wind.</summary>
    void Sail(Placement p, SailCloth cloth, Func<float, float, (float X, float Y)> outline, Func<float, float> belly)
    {
        const int rows = 14, columns = 20;
        Vector3 Point(float s, float t)
        {
            var (x, y) = outline(s, t);
            var half = MathF.Abs(s);
            return p.To(x, y, (-belly(half) * t * 0.6f) - (half * t * 0.18f));
        }

        Mesh(cloth, rows, columns, (u, v) => Point((u * 2f) - 1f, v), (u, v) =>
        {
            var (x, y) = outline((u * 2f) - 1f, v);
            return new Vector2((x * 0.5f) + 0.5f, 0.5f - y);
        });
    }

    public void Mesh(Material material, int rows, int columns, Func<float, float, Vector3> point, Func<float, float, Vector2> paint)
    {
        var points = new Vector3[rows + 1, columns + 1];
        var normals = new Vector3[rows + 1, columns + 1];
        for (var r = 0; r <= rows; r++)
        {
            for (var c = 0; c <= columns; c++)
            {
                var (u, v) = ((float)c / columns, (float)r / rows);
                points[r, c] = point(u, v);
                const float e = 0.01f;
                var n = Vector3.Cross(point(MathF.Min(1, u + e), v) - point(MathF.Max(0, u - e), v), point(u, MathF.Min(1, v + e)) - point(u, MathF.Max(0, v - e)));
                normals[r, c] = n.LengthSquared() > 1e-14f ? Vector3.Normalize(n) : Vector3.Zero;
            }
        }

        for (var r = 0; r < rows; r++)
        {
            for (var c = 0; c < columns; c++)
            {
                Face((r, c), (r, c + 1), (r + 1, c));
                Face((r + 1, c + 1), (r + 1, c), (r, c + 1));
            }
        }

        void Face((int R, int C) i, (int R, int C) j, (int R, int C) k)
        {
            Vector3 a = points[i.R, i.C], b = points[j.R, j.C], d = points[k.R, k.C];
            var flat = Vector3.Cross(b - a, d - a);
            if (flat.LengthSquared() < 1e-16f)
            {
                return;
            }

            flat = Vector3.Normalize(flat);
            Vector3 Normal((int R, int C) q)
            {
                var n = normals[q.R, q.C];
                return n == Vector3.Zero ? flat : Vector3.Dot(n, flat) < 0 ? -n : n;
            }

            Vector2 Uv((int R, int C) q) => paint((float)q.C / columns, (float)q.R / rows);
            bodies.Add(new Triangle(material, a, b, d, Uv(i), Uv(j), Uv(k), Normal(i), Normal(j), Normal(k)));
        }
    }

    void Spar(Placement p, params (float X, float Y)[] ends)
    {
        for (var i = 0; i + 1 < ends.Length; i += 2)
        {
            var lift = 0.012f;
            bodies.Add(new Rod(Carbon, p.To(ends[i].X, ends[i].Y, lift - (0.18f * MathF.Abs(ends[i].X))), p.To(ends[i + 1].X, ends[i + 1].Y, lift - (0.18f * MathF.Abs(ends[i + 1].X))), 0.006f, 0.005f, pixelAngle));
        }
    }

    void Foil(Placement p, SailCloth cloth)
    {
        foreach (var sheet in (float[])[0f, 0.10f])
        {
            Mesh(cloth, 6, 48, (u, v) =>
            {
                var x = (u - 0.5f) * 1.25f;
                var cell = MathF.Abs(MathF.Sin(u * 8f * MathF.PI)) * 0.035f;
                var arch = 0.22f * (1f - MathF.Cos(x * 1.5f));
                return p.To(x, 0.35f - (v * 0.7f), -arch - (sheet * (1f - (0.8f * v))) - (sheet > 0 ? cell : -cell));
            }, (u, v) => new Vector2(u, v));
        }

        for (var i = 0; i <= 4; i++)
        {
            var x = ((i / 4f) - 0.5f) * 1.2f;
            bodies.Add(new Rod(Carbon, p.To(x, 0.2f, -0.22f * (1f - MathF.Cos(x * 1.5f))), p.To(0, -0.3f, 1.1f), 0.002f, 0.002f, pixelAngle));
            bodies.Add(new Rod(Carbon, p.To(x, -0.2f, -0.22f * (1f - MathF.Cos(x * 1.5f))), p.To(0, -0.3f, 1.1f), 0.002f, 0.002f, pixelAngle));
        }
    }

    void Box(Placement p, SailCloth cloth)
    {
        (float X, float Z)[] posts = [(-0.22f, 0), (0, 0.22f), (0.22f, 0), (0, -0.22f)];
        foreach (var (top, bottom) in ((float, float)[])[(0.5f, 0.18f), (-0.18f, -0.5f)])
        {
            for (var i = 0; i < 4; i++)
            {
                var (a, b) = (posts[i], posts[(i + 1) % 4]);
                Mesh(cloth, 4, 6, (u, v) => p.To(Maths.Mix(a.X, b.X, u) * (1 - (0.08f * MathF.Sin(u * MathF.PI))), Maths.Mix(top, bottom, v), Maths.Mix(a.Z, b.Z, u)), (u, v) => new Vector2((u + i) / 4f, (v * 0.32f) + (top > 0 ? 0 : 0.6f)));
            }
        }

        foreach (var (x, z) in posts)
        {
            bodies.Add(new Rod(Carbon, p.To(x, 0.52f, z), p.To(x, -0.52f, z), 0.008f, 0.008f, pixelAngle));
        }
    }

    void Sock(Placement p, SailCloth cloth) =>
        Mesh(cloth, 16, 20, (u, v) =>
        {
            var (s, c) = MathF.SinCos(u * 2f * MathF.PI);
            var r = 0.26f * (1f - (0.62f * v)) * (1f + (0.05f * MathF.Sin(v * 19f)));
            return p.To((c * r) + (0.10f * MathF.Sin(v * 3f)), (s * r) - (0.25f * v * v), -v * 1.6f);
        }, (u, v) => new Vector2(u, v));

    void Tail(Vector3 from, float length, SailCloth cloth, float size, Vector3 facing, ref Rng rng)
    {
        var phase = rng.Range(0, 6);
        var wind = Vector3.Normalize(-facing with { Y = 0 });
        var side = Vector3.Cross(Vector3.UnitY, wind);
        Vector3 Spine(float v)
        {
            var run = v * length;
            var swing = (0.05f + (0.13f * v)) * length;
            return from + (wind * (run * 0.62f)) - (Vector3.UnitY * (run * (0.62f - (0.25f * v))))
                + (side * (swing * MathF.Sin((v * 7f) + phase))) + (Vector3.UnitY * (swing * 0.45f * MathF.Cos((v * 9f) + phase)));
        }

        var width = MathF.Max(0.03f, size * 0.035f);
        Mesh(cloth, 60, 2, (u, v) => Spine(v) + (Vector3.Normalize(side + (Vector3.UnitY * MathF.Sin((v * 14f) + phase))) * ((u - 0.5f) * 2f * width * (1f - (0.5f * v)))), (u, v) => new Vector2(u, v * 4f % 1f));
    }

    void Tether(Vector3 from, KiteRecipe recipe, Vector3 eye, Func<float, float, float> height)
    {
        Vector3 end;
        if (recipe.Held is { } held)
        {
            var spot = eye + (Maths.Direction(held[0], 0) * held[1]);
            end = spot with { Y = height(spot.X, spot.Z) + 1.25f };
        }
        else
        {
            var away = Maths.Direction(recipe.Az + (recipe.Az > 0 ? 14 : -14), 0);
            var spot = eye + (away * recipe.Distance * 0.25f);
            end = spot with { Y = MathF.Max(0, height(spot.X, spot.Z)) - 0.5f };
        }

        var sag = (from - end).Length() * 0.045f;
        var last = from;
        const int pieces = 24;
        var material = new Plain(new Vector3(0.55f, 0.53f, 0.5f), 0.02f);
        for (var i = 1; i <= pieces; i++)
        {
            var t = (float)i / pieces;
            var next = Vector3.Lerp(from, end, t) - (Vector3.UnitY * (4f * sag * t * (1f - t)));
            bodies.Add(new Rod(material, last, next, 0.0022f, 0.0022f, pixelAngle));
            last = next;
        }
    }
}
