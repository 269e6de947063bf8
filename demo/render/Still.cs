using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>Close work on the bench of the Guild's workshop, or cloth that fills the frame. One metre is one metre.</summary>
internal static class Still
{
    public static Stage Build(Recipe recipe, float pixelAngle, ref Rng rng)
    {
        var still = recipe.Still;
        var bodies = new List<Body>();
        var make = new Kites(bodies, pixelAngle);
        var seed = recipe.Seed % 997;
        var top = still.Top switch
        {
            "dark" => (Material)new Timber(new Vector3(0.13f, 0.075f, 0.045f), new Vector3(0.05f, 0.028f, 0.018f), 1, 0.05f),
            "mat" => new Plain(new Vector3(0.035f, 0.085f, 0.075f), 0.02f, 0.5f),
            _ => new Timber(new Vector3(0.50f, 0.33f, 0.185f), new Vector3(0.25f, 0.135f, 0.062f)),
        };
        Quad(bodies, top, new Vector3(-3, 0, -3), new Vector3(6, 0, 0), new Vector3(0, 0, 6));
        if (still.Cloth)
        {
            Cloth(make, still, recipe.Kind, seed);
        }

        if (still.Plan)
        {
            Plan(make, ref rng);
        }

        for (var i = 0; i < still.Spools; i++)
        {
            Spool(bodies, new Vector3(rng.Range(-0.26f, 0.24f), 0, (0.02f + (0.085f * i)) * (i % 2 == 0 ? 1 : -0.6f)) + new Vector3(0, Lift(still, recipe.Kind), 0), Dye.Of(still.Colours[i % still.Colours.Length]), i % 3 == 1, ref rng);
        }

        for (var i = 0; i < still.Spars; i++)
        {
            var across = rng.Range(-0.16f, 0.2f);
            var material = i % 2 == 0 ? new Plain(new Vector3(0.018f), 0.14f, 0.18f) : (Material)new Plain(new Vector3(0.55f, 0.38f, 0.20f), 0.04f, 0.4f);
            var lift = Lift(still, recipe.Kind) + 0.004f + (0.007f * i);
            bodies.Add(new Rod(material, new Vector3(-0.9f, lift, across - 0.2f), new Vector3(0.9f, lift, across + rng.Range(0.0f, 0.4f)), 0.0034f, 0.0034f));
        }

        for (var i = 0; i < still.Pencils; i++)
        {
            Pencil(bodies, new Vector3(rng.Range(-0.15f, 0.15f), Lift(still, recipe.Kind) + 0.0045f, rng.Range(-0.12f, 0.10f)), rng.Range(-1, 4), Dye.Of(still.Colours[(i + 1) % still.Colours.Length]));
        }

        if (still.Ruler)
        {
            Ruler(make, Lift(still, recipe.Kind) + 0.003f);
        }

        var aim = new Vector3(0, 0.01f, 0);
        var eye = aim + (Maths.Direction(180 + rng.Range(-14, 14), still.View) * still.Range);
        var side = Maths.Direction(still.Window, 12);
        var middle = side * 2.6f;
        var across2 = Vector3.Normalize(Vector3.Cross(Vector3.UnitY, side)) * 0.8f;
        var light = new Vector3(7.0f, 6.7f, 6.3f) * still.Light;
        return new Stage
        {
            Sky = new Sky(recipe.Sky, seed),
            Bodies = new Bodies(bodies),
            Lamps = [],
            Eye = eye,
            Ahead = Vector3.Normalize(aim - eye),
            Recipe = recipe,
            Window = (middle, across2, Vector3.UnitY * 0.75f, light),
            Room = new Vector3(0.15f, 0.135f, 0.115f) * still.Light,
        };
    }

    static float Lift(StillRecipe still, string kind) => kind == "cloth" ? 0.03f : still.Plan ? 0.002f : 0f;

    static void Quad(List<Body> bodies, Material material, Vector3 corner, Vector3 a, Vector3 b)
    {
        bodies.Add(new Triangle(material, corner, corner + b, corner + a, Vector2.Zero, Vector2.UnitY, Vector2.UnitX));
        bodies.Add(new Triangle(material, corner + a + b, corner + a, corner + b, Vector2.One, Vector2.UnitX, Vector2.UnitY));
    }

    /// <summary>Cloth thrown down: folds that run, meet and die out. Kind "cloth" fills the frame, "bench" leaves a heap at the back.</summary>
    static void Cloth(Kites make, StillRecipe still, string kind, int seed)
    {
        var fills = kind == "cloth";
        var weave = fills ? 190f : 120f;
        var material = new SailCloth(Dye.All(still.Colours), still.Pattern, 0, weave, 1, 0.02f);
        var (wide, deep) = fills ? (1.9f, 1.9f) : (0.95f, 0.62f);
        var (x0, z0) = fills ? (-0.95f, -0.8f) : (-0.62f + (0.25f * Noise.At(seed, 1f)), 0.02f);
        make.Mesh(material, 150, 180, (u, v) =>
        {
            var (x, z) = (u * wide, v * deep);
            var warp = Noise.Sum((x * 2.1f) + seed, z * 2.1f, 3, 61) * 0.55f;
            var direction = (x * (0.75f + (0.3f * MathF.Sin(seed)))) + (z * (0.9f * MathF.Cos(seed * 1.3f)));
            var fold = 1f - MathF.Abs(MathF.Sin(((direction * 7.5f) + (warp * 5f)) * still.Folds));
            var slack = Noise.Sum((x * 3.4f) + (seed * 0.7f), z * 3.4f, 4, 67);
            var height = (0.050f * fold * fold * (0.4f + (0.9f * Maths.Smooth(-0.4f, 0.4f, slack)))) + (0.022f * (slack + 0.5f)) + (0.006f * Noise.Sum(x * 16f, z * 16f, 3, 71));
            var edge = fills ? 1f : Maths.Smooth(0f, 0.10f, MathF.Min(MathF.Min(u, 1 - u), MathF.Min(v, 1 - v)));
            var ragged = fills ? 0f : 0.035f * Noise.At(u * 5f, v * 5f, 73);
            return new Vector3(x0 + x + ragged, 0.0015f + (MathF.Max(0f, height) * (0.12f + (0.88f * edge)) * MathF.Min(1f, still.Folds)), z0 + z + ragged);
        }, (u, v) => new Vector2(u, v));
    }

    static void Plan(Kites make, ref Rng rng)
    {
        var turn = Quaternion.CreateFromAxisAngle(Vector3.UnitY, rng.Range(-0.35f, 0.35f));
        var curl = rng.Range(0.02f, 0.05f);
        make.Mesh(new Drawing(new Vector3(0.74f, 0.71f, 0.63f), new Vector3(0.035f, 0.05f, 0.11f)), 30, 40, (u, v) =>
        {
            var roll = Maths.Smooth(0.72f, 1f, u) * curl;
            return Vector3.Transform(new Vector3((u - 0.5f) * 0.6f, 0.0012f + roll, (0.5f - v) * 0.42f), turn);
        }, (u, v) => new Vector2(u, v));
    }

    static void Spool(List<Body> bodies, Vector3 foot, Vector3 colour, bool lying, ref Rng rng)
    {
        const float tall = 0.062f, radius = 0.024f;
        var axis = lying ? Vector3.Normalize(new Vector3(rng.Range(-1, 1), 0, rng.Range(0.2f, 1))) : Vector3.UnitY;
        var start = lying ? foot + new Vector3(0, radius + 0.006f, 0) : foot;
        var wood = new Timber(new Vector3(0.58f, 0.42f, 0.25f), new Vector3(0.36f, 0.22f, 0.11f), 6);
        Disc(bodies, wood, start, axis, 0.031f, 0.005f);
        Disc(bodies, wood, start + (axis * (tall - 0.005f)), axis, 0.031f, 0.005f);
        const int turns = 24;
        var line = new Twine(colour, 900);
        var (along, across) = Maths.Basis(axis);
        const int pieces = 26;
        for (var i = 0; i < turns * pieces; i++)
        {
            Vector3 At(int k)
            {
                var (s, c) = MathF.SinCos(2f * MathF.PI * k / pieces);
                return start + (axis * (0.007f + ((tall - 0.014f) * k / (turns * pieces)))) + (((along * c) + (across * s)) * radius * (1f + (0.012f * MathF.Sin(k * 0.37f))));
            }

            bodies.Add(new Rod(line, At(i), At(i + 1), 0.00125f, 0.00125f, 0, i * 0.006f));
        }

        // The loose end wanders off over the bench.
        var last = start + (along * radius) + (axis * (lying ? 0.03f : 0.01f));
        var heading = rng.Range(0, 6.28f);
        for (var i = 0; i < 60; i++)
        {
            heading += rng.Range(-0.32f, 0.34f);
            var next = last + new Vector3(MathF.Cos(heading) * 0.008f, 0, MathF.Sin(heading) * 0.008f);
            next.Y = MathF.Max(foot.Y + 0.0014f, last.Y - 0.004f);
            bodies.Add(new Rod(line, last, next, 0.0012f, 0.0012f, 0, i * 0.008f));
            last = next;
        }
    }

    static void Disc(List<Body> bodies, Material material, Vector3 at, Vector3 axis, float radius, float thick)
    {
        var (along, across) = Maths.Basis(axis);
        const int sides = 40;
        for (var i = 0; i < sides; i++)
        {
            Vector3 Rim(int k)
            {
                var (s, c) = MathF.SinCos(2f * MathF.PI * k / sides);
                return ((along * c) + (across * s)) * radius;
            }

            var (a, b, up) = (at + Rim(i), at + Rim(i + 1), axis * thick);
            bodies.Add(new Triangle(material, at + up, a + up, b + up, Vector2.Zero, Vector2.UnitX, Vector2.UnitY));
            bodies.Add(new Triangle(material, at, a, b, Vector2.Zero, Vector2.UnitX, Vector2.UnitY));
            bodies.Add(new Triangle(material, a, b, a + up, Vector2.Zero, Vector2.UnitX, Vector2.UnitY));
            bodies.Add(new Triangle(material, b, b + up, a + up, Vector2.Zero, Vector2.UnitX, Vector2.UnitY));
        }
    }

    static void Pencil(List<Body> bodies, Vector3 at, float turn, Vector3 colour)
    {
        var axis = new Vector3(MathF.Cos(turn), 0, MathF.Sin(turn));
        bodies.Add(new Rod(new Plain(colour, 0.10f, 0.2f), at - (axis * 0.085f), at + (axis * 0.06f), 0.0038f, 0.0038f));
        bodies.Add(new Rod(new Plain(new Vector3(0.62f, 0.45f, 0.27f)), at + (axis * 0.06f), at + (axis * 0.076f), 0.0037f, 0.0012f));
        bodies.Add(new Rod(new Plain(new Vector3(0.03f), 0.1f), at + (axis * 0.076f), at + (axis * 0.081f), 0.0012f, 0.0004f));
    }

    static void Ruler(Kites make, float lift) =>
        make.Mesh(new Graduated(new Vector3(0.56f, 0.57f, 0.58f), new Vector3(0.03f)), 2, 30, (u, v) => new Vector3(-0.30f + (u * 0.5f), lift, -0.13f - (v * 0.03f) + (u * 0.12f)), (u, v) => new Vector2(u * 0.5f, 1f - v));
}
