using System.Numerics;

namespace Jovitar.Demo.Render;

/// <summary>Follows light from the camera: sun, window and lamps directly, the sky by one scattered ray, mirrors of water.</summary>
internal sealed class Tracer
{
    readonly Stage stage;
    readonly Recipe recipe;
    readonly int width, height;
    readonly Vector3 right, up;
    readonly float scale, pixelAngle;
    readonly Vector3 groundGlow;

    public Tracer(Recipe recipe, int width, int height)
    {
        (this.recipe, this.width, this.height) = (recipe, width, height);
        // The focal length is that of the longer side, so a tall frame takes in as much as a wide one.
        scale = 36f / recipe.Camera.Focal / Math.Max(width, height);
        pixelAngle = scale;
        stage = Stage.Build(recipe, pixelAngle);
        var across = Vector3.Normalize(Vector3.Cross(Vector3.UnitY, stage.Ahead));
        var above = Vector3.Cross(stage.Ahead, across);
        right = Maths.Turn(across, stage.Ahead, recipe.Camera.Roll);
        up = Maths.Turn(above, stage.Ahead, recipe.Camera.Roll);
        var sky = stage.Sky;
        groundGlow = ((sky.Light * MathF.Max(0.05f, sky.Sun.Y)) + sky.Clear(Vector3.UnitY)) * new Vector3(0.36f, 0.29f, 0.20f) * 0.6f;
    }

    /// <summary>Renders all pixels, several rays each; a line of progress goes to standard error.</summary>
    public Vector3[] Render(int rays)
    {
        var light = new Vector3[width * height];
        var clouds = stage.Ground is null ? null : CloudMap();
        Parallel.For(0, height, y =>
        {
            var rng = new Rng(((ulong)recipe.Seed << 24) + (ulong)y);
            for (var x = 0; x < width; x++)
            {
                var sum = Vector3.Zero;
                var taken = 0;
                var all = rays;
                var open = 0;
                var (first, second) = (0f, 0f);
                for (var i = 0; i < all; i++)
                {
                    var sample = Look(x + rng.Next(), y + rng.Next(), clouds, ref rng, out var miss);
                    sum += Vector3.Min(sample, new Vector3(24f));
                    taken++;
                    open += miss ? 1 : 0;
                    if (i == 3 && open == 4)
                    {
                        break;
                    }

                    // Enough rays once the mean is steadier than the grain that is laid over it.
                    var luma = MathF.Sqrt(Maths.Luma(sample));
                    (first, second) = (first + luma, second + (luma * luma));
                    if (i >= 5)
                    {
                        var mean = first / taken;
                        var spread = MathF.Max(0f, (second / taken) - (mean * mean)) / taken;
                        if (spread < 0.00005f)
                        {
                            break;
                        }
                    }
                }

                light[(y * width) + x] = sum / taken;
            }
        });
        return light;
    }

    Vector3 Through(float x, float y) =>
        Vector3.Normalize(stage.Ahead + (right * ((x - (width * 0.5f)) * scale)) - (up * ((y - (height * 0.5f)) * scale)));

    /// <summary>Clouds are soft, so they are marched on half the grid and read between its points.</summary>
    Vector3[] CloudMap()
    {
        var (w, h) = ((width / 2) + 2, (height / 2) + 2);
        var map = new Vector3[w * h];
        Parallel.For(0, h, y =>
        {
            var rng = new Rng(((ulong)recipe.Seed << 20) + (ulong)y + 99);
            for (var x = 0; x < w; x++)
            {
                var d = Through(x * 2f, y * 2f);
                map[(y * w) + x] = d.Y < -0.02f ? Vector3.Zero : (Backdrop(d, ref rng, 12) + Backdrop(d, ref rng, 12)) * 0.5f;
            }
        });
        return map;
    }

    Vector3 Backdrop(Vector3 d, ref Rng rng, int steps)
    {
        var colour = stage.Sky.Seen(d with { Y = MathF.Max(d.Y, 0.0005f) }, ref rng, steps);
        if (stage.Ground is { } ground)
        {
            var azimuth = MathF.Atan2(d.X, d.Z) / Maths.Degree;
            var rise = ground.Headland(azimuth);
            var elevation = MathF.Asin(Math.Clamp(d.Y, -1f, 1f)) / Maths.Degree;
            if (elevation < rise)
            {
                var haze = stage.Sky.HazeToward(d);
                var land = new Vector3(0.075f, 0.085f, 0.080f) * (0.4f + Maths.Luma(stage.Sky.Light) * 0.35f) * (0.8f + (0.4f * Noise.Sum(azimuth * 0.6f, elevation * 5f, 3, 211)));
                colour = Maths.Mix(haze, Vector3.Min(land, haze * 1.1f), 0.40f - (0.30f * recipe.Sky.Haze));
            }
        }

        return colour;
    }

    Vector3 Look(float x, float y, Vector3[]? clouds, ref Rng rng, out bool miss)
    {
        var direction = Through(x, y);
        var camera = recipe.Camera;
        var origin = stage.Eye;
        // A lens of focal length f at N has an opening of f/N; millimetres to metres.
        var opening = camera.Focal / camera.FStop * 0.0005f;
        var focus = origin + (direction * (camera.Focus / MathF.Max(0.2f, Vector3.Dot(direction, stage.Ahead))));
        var (radius, turn) = (opening * MathF.Sqrt(rng.Next()), rng.Next() * 2f * MathF.PI);
        var lens = (right * (radius * MathF.Cos(turn))) + (up * (radius * MathF.Sin(turn)));
        var ray = new Ray(origin + lens, Vector3.Normalize(focus - origin - lens));
        var seen = Trace(ray, 0, ref rng, out miss);
        return miss && clouds is not null ? ReadMap(clouds, x, y, ray.Direction, ref rng) : seen;
    }

    Vector3 ReadMap(Vector3[] map, float x, float y, Vector3 d, ref Rng rng)
    {
        if (recipe.Sky.Elevation < -5f || Vector3.Dot(d, stage.Sky.Sun) > 0.9990f || d.Y < 0.03f)
        {
            return Backdrop(d, ref rng, 12);
        }

        var w = (width / 2) + 2;
        var (fx, fy) = (Math.Clamp(x * 0.5f, 0, w - 1.01f), Math.Clamp(y * 0.5f, 0, (height / 2) + 0.99f));
        var (ix, iy) = ((int)fx, (int)fy);
        var top = Maths.Mix(map[(iy * w) + ix], map[(iy * w) + ix + 1], fx - ix);
        var bottom = Maths.Mix(map[((iy + 1) * w) + ix], map[((iy + 1) * w) + ix + 1], fx - ix);
        return Maths.Mix(top, bottom, fy - iy);
    }

    Vector3 Trace(in Ray ray, int depth, ref Rng rng, out bool miss)
    {
        var hit = new Hit { T = 4000f };
        var body = stage.Bodies.Meet(ray, ref hit, ref rng);
        miss = false;
        if (stage.Ground is { } ground && ground.Meet(ray, hit.T, out var t, out var sea))
        {
            var p = ray.At(t);
            return Haze(sea ? OnSea(ray, p, t, depth, ref rng) : OnLand(ray, p, t, depth, ref rng), ray.Direction, t);
        }

        if (!body)
        {
            miss = true;
            return stage.Ground is null ? RoomLight(ray.Direction) : depth == 0 ? Vector3.Zero : Backdrop(ray.Direction, ref rng, 3);
        }

        var surface = hit.Material.At(hit);
        if (Vector3.Dot(surface.Normal, ray.Direction) > 0)
        {
            surface.Normal = -surface.Normal;
        }

        var colour = surface.Emits + Lit(surface, hit.Point, ray.Direction, depth, ref rng);
        return Haze(colour, ray.Direction, hit.T);
    }

    Vector3 RoomLight(Vector3 d)
    {
        if (stage.Window is { } window)
        {
            var toward = Vector3.Dot(d, Vector3.Normalize(window.Middle));
            return stage.Room * (0.55f + (0.45f * d.Y) + (0.9f * MathF.Max(0f, toward) * toward));
        }

        return stage.Room;
    }

    Vector3 Haze(Vector3 colour, Vector3 d, float distance)
    {
        if (stage.Ground is null)
        {
            return colour;
        }

        var thick = 0.00016f + (0.0022f * recipe.Sky.Haze * recipe.Sky.Haze * recipe.Sky.Haze) + (recipe.Sky.Haze > 0.85f ? (recipe.Sky.Haze - 0.85f) * 0.11f : 0f);
        return Maths.Mix(stage.Sky.HazeToward(d), colour, MathF.Exp(-distance * thick));
    }

    bool Shadowed(Vector3 from, Vector3 toward, float distance, ref Rng rng)
    {
        var ray = new Ray(from, toward);
        var hit = new Hit { T = distance };
        return stage.Bodies.Meet(ray, ref hit, ref rng, true) || (stage.Ground is { } ground && ground.Meet(ray, MathF.Min(distance, 120f), out _, out _));
    }

    Vector3 Lit(in Surface s, Vector3 point, Vector3 view, int depth, ref Rng rng)
    {
        var sum = Vector3.Zero;
        var sky = stage.Sky;
        if (stage.Window is { } window)
        {
            var spot = window.Middle + (window.Across * rng.Range(-1, 1)) + (window.Up * rng.Range(-1, 1));
            sum += From(s, point, view, spot, window.Light * 0.62f, ref rng);
        }
        else if (sky.SunIsUp)
        {
            var toward = Vector3.Normalize(sky.Sun + (new Vector3(rng.Range(-1, 1), rng.Range(-1, 1), rng.Range(-1, 1)) * 0.006f));
            sum += Direct(s, point, view, toward, sky.Light, 400f, ref rng);
        }

        if (stage.Lamps.Count > 0)
        {
            var (lamp, share) = Choose(point, ref rng);
            var spot = lamp.At + (new Vector3(rng.Range(-1, 1), rng.Range(-1, 1), rng.Range(-1, 1)) * lamp.Radius);
            var away = spot - point;
            var distance = away.Length();
            var power = lamp.Power * (0.8f / ((4f + (distance * distance)) * share));
            sum += Direct(s, point, view, away / distance, power, distance - (lamp.Radius * 1.8f), ref rng);
        }

        return sum + Scattered(s, point, view, depth, ref rng);
    }

    /// <summary>One lamp, chosen as often as it is likely to matter here, and how often that is.</summary>
    (Lamp Lamp, float Share) Choose(Vector3 point, ref Rng rng)
    {
        float Weight(Lamp lamp) => Maths.Luma(lamp.Power) / (4f + (lamp.At - point).LengthSquared());
        var all = 0f;
        foreach (var lamp in stage.Lamps)
        {
            all += Weight(lamp);
        }

        var left = rng.Next() * all;
        foreach (var lamp in stage.Lamps)
        {
            var weight = Weight(lamp);
            left -= weight;
            if (left <= 0)
            {
                return (lamp, weight / all);
            }
        }

        return (stage.Lamps[^1], Weight(stage.Lamps[^1]) / all);
    }

    Vector3 From(in Surface s, Vector3 point, Vector3 view, Vector3 spot, Vector3 power, ref Rng rng)
    {
        var away = spot - point;
        var distance = away.Length();
        return Direct(s, point, view, away / distance, power * (4f / (1f + (distance * distance * 0.5f))), distance, ref rng);
    }

    Vector3 Direct(in Surface s, Vector3 point, Vector3 view, Vector3 toward, Vector3 power, float distance, ref Rng rng)
    {
        var facing = Vector3.Dot(s.Normal, toward);
        var colour = facing > 0 ? s.Albedo * facing : s.Through * -facing;
        if (s.Gloss > 0 && facing > 0)
        {
            var half = Vector3.Normalize(toward - view);
            var sharp = 2f / MathF.Max(0.01f, s.Roughness * s.Roughness);
            colour += new Vector3(s.Gloss * (sharp + 2f) * 0.125f * MathF.Pow(MathF.Max(0f, Vector3.Dot(half, s.Normal)), sharp) * facing);
        }

        if (Maths.Luma(colour * power) < 0.0004f)
        {
            return Vector3.Zero;
        }

        var from = point + (s.Normal * (facing > 0 ? 0.0025f : -0.0025f) * MathF.Max(1f, (point - stage.Eye).Length() * 0.05f));
        return Shadowed(from, toward, distance, ref rng) ? Vector3.Zero : colour * power;
    }

    Vector3 Scattered(in Surface s, Vector3 point, Vector3 view, int depth, ref Rng rng)
    {
        var sky = stage.Sky;
        var behind = Maths.Luma(s.Through);
        var front = Maths.Luma(s.Albedo);
        var other = behind > 0 && rng.Next() < behind / (behind + front + 1e-4f);
        var normal = other ? -s.Normal : s.Normal;
        var weight = other ? s.Through * ((behind + front) / behind) : behind > 0 ? s.Albedo * ((behind + front) / MathF.Max(front, 1e-4f)) : s.Albedo;
        var d = Maths.CosineAround(normal, ref rng);
        var colour = Vector3.Zero;
        Vector3 arriving;
        if (depth > 0)
        {
            arriving = stage.Ground is null ? RoomLight(d) : d.Y > 0 ? sky.Clear(d) : groundGlow;
        }
        else
        {
            var hit = new Hit { T = stage.Ground is null ? 1.5f : 30f };
            var ray = new Ray(point + (normal * 0.003f), d);
            if (stage.Bodies.Meet(ray, ref hit, ref rng))
            {
                var met = hit.Material.At(hit);
                arriving = (met.Albedo * (stage.Ground is null ? stage.Room * 2.2f : groundGlow * 2f)) + met.Emits;
            }
            else
            {
                arriving = stage.Ground is null ? RoomLight(d) : d.Y > 0.01f ? sky.Clear(d) * (1f - (0.25f * recipe.Sky.Cloud)) + (sky.Light * (0.05f * recipe.Sky.Cloud)) : groundGlow;
            }
        }

        colour += weight * arriving;
        if (s.Gloss > 0.05f && depth == 0)
        {
            var mirror = Vector3.Reflect(view, s.Normal);
            colour += s.Gloss * (stage.Ground is null ? RoomLight(mirror) * 2f : sky.Clear(mirror));
        }

        return colour;
    }

    Vector3 OnLand(in Ray ray, Vector3 p, float t, int depth, ref Rng rng)
    {
        var (surface, wet) = stage.Ground!.Land(p, t);
        var colour = Lit(surface, p + new Vector3(0, 0.004f + (t * 0.0004f), 0), ray.Direction, depth, ref rng);
        if (wet > 0.02f && depth == 0)
        {
            var normal = Vector3.Normalize(Vector3.Lerp(Vector3.UnitY, surface.Normal, 0.22f));
            var facing = MathF.Max(0f, -Vector3.Dot(normal, ray.Direction));
            var share = (0.02f + (0.98f * MathF.Pow(1f - facing, 5f))) * wet * 0.9f;
            var mirror = Vector3.Reflect(ray.Direction, normal);
            mirror.Y = MathF.Max(mirror.Y, 0.01f);
            colour = Maths.Mix(colour, Trace(new Ray(p + new Vector3(0, 0.03f, 0), Vector3.Normalize(mirror)), 1, ref rng, out _), share);
        }

        return colour;
    }

    Vector3 OnSea(in Ray ray, Vector3 p, float t, int depth, ref Rng rng)
    {
        var (normal, body, foam) = stage.Ground!.Sea(p, t);
        var facing = MathF.Max(0.02f, -Vector3.Dot(normal, ray.Direction));
        // Schlick's approximation for water, F0 = 0.02.
        var share = 0.02f + (0.98f * MathF.Pow(1f - facing, 5f));
        var mirror = Vector3.Reflect(ray.Direction, normal);
        mirror.Y = MathF.Abs(mirror.Y) + 0.01f;
        mirror = Vector3.Normalize(mirror);
        var reflected = depth == 0 ? Trace(new Ray(p + new Vector3(0, 0.05f, 0), mirror), 1, ref rng, out _) : stage.Sky.Clear(mirror);
        var sky = stage.Sky;
        if (sky.SunIsUp)
        {
            reflected += sky.Light * (9f * MathF.Pow(MathF.Max(0f, Vector3.Dot(mirror, sky.Sun)), 420f));
        }

        var ambient = sky.Clear(Vector3.UnitY) + (sky.Light * (MathF.Max(0.02f, sky.Sun.Y) * 0.7f));
        var colour = Maths.Mix(body * ambient * 1.5f, reflected, share);
        return foam > 0.01f ? Maths.Mix(colour, new Vector3(0.72f) * (ambient * 0.8f), foam * 0.85f) : colour;
    }
}
