using System.Numerics;

namespace Jovitar.Demo.Render;

internal readonly record struct Lamp(Vector3 At, Vector3 Power, float Radius);

/// <summary>Everything that stands before the camera, built from a recipe.</summary>
internal sealed class Stage
{
    public required Sky Sky { get; init; }
    public Ground? Ground { get; init; }
    public required Bodies Bodies { get; init; }
    public required IReadOnlyList<Lamp> Lamps { get; init; }
    public required Vector3 Eye { get; init; }
    public required Vector3 Ahead { get; init; }
    public required Recipe Recipe { get; init; }
    /// <summary>A window that lights a room: its middle, half its sides, and its light.</summary>
    public (Vector3 Middle, Vector3 Across, Vector3 Up, Vector3 Light)? Window { get; init; }
    public Vector3 Room { get; init; }

    public static Stage Build(Recipe recipe, float pixelAngle)
    {
        var rng = new Rng((ulong)recipe.Seed * 7919UL);
        return recipe.Kind == "strand" ? Strand(recipe, pixelAngle, ref rng) : Still.Build(recipe, pixelAngle, ref rng);
    }

    static Stage Strand(Recipe recipe, float pixelAngle, ref Rng rng)
    {
        var bodies = new List<Body>();
        var lamps = new List<Lamp>();
        var sky = new Sky(recipe.Sky, recipe.Seed);
        var ground = new Ground(recipe.Ground, recipe.Seed);
        var eye = new Vector3(0, MathF.Max(0, ground.Height(0, 0)) + recipe.Camera.Height, 0);
        var kites = new Kites(bodies, pixelAngle);
        foreach (var kite in recipe.Kites)
        {
            kites.Add(kite, eye, ground.Height, ref rng);
            if (kite.Glow > 0)
            {
                lamps.Add(new Lamp(eye + (Maths.Direction(kite.Az, kite.El) * kite.Distance), Dye.Of(kite.Colours[0]) * (kite.Glow * kite.Size * kite.Size * 1.2f), kite.Size * 0.3f));
            }
        }

        if (recipe.Flock is { } flock)
        {
            for (var i = 0; i < flock.Count; i++)
            {
                var near = MathF.Pow(rng.Next(), 0.7f);
                kites.Add(new KiteRecipe
                {
                    Kind = flock.Kinds[rng.Below(flock.Kinds.Length)],
                    Pattern = ((string[])["panels", "stripes", "chevron", "sunburst", "halves", "bands", "roundel"])[rng.Below(7)],
                    Colours = Dye.Sets[rng.Below(Dye.Sets.Length)],
                    Az = rng.Range(flock.Az[0], flock.Az[1]),
                    El = rng.Range(flock.El[0], flock.El[1]),
                    Distance = Maths.Mix(flock.Distance[0], flock.Distance[1], near),
                    Size = rng.Range(flock.Size[0], flock.Size[1]),
                    Roll = rng.Range(-18, 18),
                    Yaw = rng.Range(-35, 35),
                    Lean = rng.Range(20, 50),
                    Tail = rng.Next() < 0.6f ? rng.Range(3, 12) : 0,
                    Glow = flock.Glow,
                }, eye, ground.Height, ref rng);
            }
        }

        var props = new Props(bodies, lamps, ground.Height, eye, pixelAngle);
        foreach (var crowd in recipe.People)
        {
            props.People(crowd, ref rng);
        }

        props.Grass(recipe.Grass, ref rng);
        props.Banners(recipe.Banners, ref rng);
        props.Tents(recipe.Tents, ref rng);
        props.Lanterns(recipe.Lanterns, ref rng);
        if (recipe.Fire)
        {
            props.Fire(ref rng);
        }

        foreach (var trail in recipe.Trails)
        {
            props.Trail(trail, ref rng);
        }

        return new Stage { Sky = sky, Ground = ground, Bodies = new Bodies(bodies), Lamps = lamps, Eye = eye, Ahead = Maths.Direction(0, recipe.Camera.Pitch), Recipe = recipe };
    }
}
