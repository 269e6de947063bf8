using System.Numerics;

namespace Jovitar.Demo.Render;

internal struct Ray(Vector3 origin, Vector3 direction)
{
    public Vector3 Origin = origin;
    public Vector3 Direction = direction;
    public readonly Vector3 At(float t) => Origin + (Direction * t);
}

internal struct Hit
{
    public float T;
    public Vector3 Point;
    public Vector3 Normal;
    public Vector2 Uv;
    public Material Material;
}

/// <summary>Something a ray can meet.</summary>
internal abstract class Body(Material material)
{
    public Material Material { get; } = material;
    public abstract (Vector3 Low, Vector3 High) Bounds { get; }
    /// <summary>Shortens <paramref name="hit"/> when this body is met between 0.001 and its present length.</summary>
    public abstract bool Meet(in Ray ray, ref Hit hit, ref Rng rng);
}

internal sealed class Triangle : Body
{
    readonly Vector3 a, ab, ac, na, nb, nc;
    readonly Vector2 ua, ub, uc;

    public Triangle(Material material, Vector3 a, Vector3 b, Vector3 c, Vector2 ua, Vector2 ub, Vector2 uc, Vector3? na = null, Vector3? nb = null, Vector3? nc = null)
        : base(material)
    {
        (this.a, ab, ac) = (a, b - a, c - a);
        (this.ua, this.ub, this.uc) = (ua, ub, uc);
        var flat = Vector3.Normalize(Vector3.Cross(ab, ac));
        (this.na, this.nb, this.nc) = (na ?? flat, nb ?? flat, nc ?? flat);
    }

    public override (Vector3 Low, Vector3 High) Bounds =>
        (Vector3.Min(a, Vector3.Min(a + ab, a + ac)), Vector3.Max(a, Vector3.Max(a + ab, a + ac)));

    // Möller and Trumbore, "Fast, minimum storage ray/triangle intersection", 1997.
    public override bool Meet(in Ray ray, ref Hit hit, ref Rng rng)
    {
        var p = Vector3.Cross(ray.Direction, ac);
        var determinant = Vector3.Dot(ab, p);
        if (MathF.Abs(determinant) < 1e-12f)
        {
            return false;
        }

        var inverse = 1f / determinant;
        var s = ray.Origin - a;
        var u = Vector3.Dot(s, p) * inverse;
        if (u is < 0f or > 1f)
        {
            return false;
        }

        var q = Vector3.Cross(s, ab);
        var v = Vector3.Dot(ray.Direction, q) * inverse;
        if (v < 0f || u + v > 1f)
        {
            return false;
        }

        var t = Vector3.Dot(ac, q) * inverse;
        if (t < 0.001f || t >= hit.T)
        {
            return false;
        }

        var w = 1f - u - v;
        hit.T = t;
        hit.Point = ray.At(t);
        hit.Normal = Vector3.Normalize((na * w) + (nb * u) + (nc * v));
        hit.Uv = (ua * w) + (ub * u) + (uc * v);
        hit.Material = Material;
        return true;
    }
}

/// <summary>A round-ended rod: a kite line, a spar, a blade of grass. Thinner than a pixel it is met by chance, so it never flickers away.</summary>
internal sealed class Rod(Material material, Vector3 a, Vector3 b, float radiusA, float radiusB, float pixelAngle = 0, float along = 0) : Body(material)
{
    readonly Vector3 axis = b - a;

    public override (Vector3 Low, Vector3 High) Bounds
    {
        get
        {
            var r = new Vector3(MathF.Max(radiusA, radiusB) * 1.01f);
            return (Vector3.Min(a, b) - r, Vector3.Max(a, b) + r);
        }
    }

    public override bool Meet(in Ray ray, ref Hit hit, ref Rng rng)
    {
        // Closest approach of the ray's line and the axis; exact for thin rods, close enough for the rest.
        var w = ray.Origin - a;
        float aa = Vector3.Dot(axis, axis), ad = Vector3.Dot(axis, ray.Direction), aw = Vector3.Dot(axis, w), dw = Vector3.Dot(ray.Direction, w);
        var bottom = aa - (ad * ad);
        if (bottom < 1e-9f)
        {
            return false;
        }

        var s = Math.Clamp((aw - (ad * dw)) / bottom, 0f, 1f);
        var centre = a + (axis * s);
        var nearest = Vector3.Dot(centre - ray.Origin, ray.Direction);
        if (nearest < 0.001f || nearest > hit.T + 1f)
        {
            return false;
        }

        var radius = Maths.Mix(radiusA, radiusB, s);
        var wide = MathF.Max(radius, pixelAngle * nearest * 0.55f);
        var away = ray.At(nearest) - centre;
        var square = away.LengthSquared();
        if (square > wide * wide || (wide > radius && rng.Next() > radius / wide))
        {
            return false;
        }

        var depth = MathF.Sqrt(MathF.Max(0f, (radius * radius) - MathF.Min(square, radius * radius)));
        var slope = MathF.Sqrt(aa / bottom);
        var t = nearest - MathF.Min(depth * slope, radius * 4f);
        if (t < 0.001f || t >= hit.T)
        {
            return false;
        }

        hit.T = t;
        hit.Point = ray.At(t);
        var normal = hit.Point - centre;
        normal -= axis * (Vector3.Dot(normal, axis) / aa);
        hit.Normal = normal.LengthSquared() > 1e-12f ? Vector3.Normalize(normal) : -ray.Direction;
        var (across, up) = Maths.Basis(Vector3.Normalize(axis));
        hit.Uv = new Vector2(along + (s * MathF.Sqrt(aa)), MathF.Atan2(Vector3.Dot(hit.Normal, up), Vector3.Dot(hit.Normal, across)) / (2f * MathF.PI));
        hit.Material = Material;
        return true;
    }
}

internal sealed class Ball(Material material, Vector3 centre, float radius) : Body(material)
{
    public override (Vector3 Low, Vector3 High) Bounds => (centre - new Vector3(radius), centre + new Vector3(radius));

    public override bool Meet(in Ray ray, ref Hit hit, ref Rng rng)
    {
        var o = ray.Origin - centre;
        var b = Vector3.Dot(o, ray.Direction);
        var d = (b * b) - Vector3.Dot(o, o) + (radius * radius);
        if (d < 0f)
        {
            return false;
        }

        var t = -b - MathF.Sqrt(d);
        if (t < 0.001f || t >= hit.T)
        {
            return false;
        }

        hit.T = t;
        hit.Point = ray.At(t);
        hit.Normal = (hit.Point - centre) / radius;
        hit.Uv = new Vector2(hit.Normal.X, hit.Normal.Y);
        hit.Material = Material;
        return true;
    }
}

/// <summary>A hierarchy of bounding boxes over bodies, split at the middle of the longest side.</summary>
internal sealed class Bodies
{
    struct Node
    {
        public Vector3 Low, High;
        public int First, Count, Right;
    }

    readonly Body[] bodies;
    readonly List<Node> nodes = [];

    public Bodies(IEnumerable<Body> all)
    {
        bodies = [.. all];
        if (bodies.Length > 0)
        {
            var centres = Array.ConvertAll(bodies, b => (b.Bounds.Low + b.Bounds.High) * 0.5f);
            Split(0, bodies.Length, centres);
        }
    }

    int Split(int first, int count, Vector3[] centres)
    {
        var (low, high) = (new Vector3(float.MaxValue), new Vector3(float.MinValue));
        var (centreLow, centreHigh) = (low, high);
        for (var i = first; i < first + count; i++)
        {
            var bounds = bodies[i].Bounds;
            (low, high) = (Vector3.Min(low, bounds.Low), Vector3.Max(high, bounds.High));
            (centreLow, centreHigh) = (Vector3.Min(centreLow, centres[i]), Vector3.Max(centreHigh, centres[i]));
        }

        var index = nodes.Count;
        nodes.Add(new Node { Low = low, High = high, First = first, Count = count });
        if (count > 4)
        {
            var size = centreHigh - centreLow;
            Comparison<float> order = (x, y) => x.CompareTo(y);
            float Along(Vector3 v) => size.X >= size.Y && size.X >= size.Z ? v.X : size.Y >= size.Z ? v.Y : v.Z;
            var keys = new float[count];
            for (var i = 0; i < count; i++)
            {
                keys[i] = Along(centres[first + i]);
            }

            var places = Enumerable.Range(first, count).ToArray();
            Array.Sort(keys, places);
            var sorted = Array.ConvertAll(places, p => bodies[p]);
            var sortedCentres = Array.ConvertAll(places, p => centres[p]);
            sorted.CopyTo(bodies, first);
            sortedCentres.CopyTo(centres, first);
            var half = count / 2;
            Split(first, half, centres);
            var right = Split(first + half, count - half, centres);
            nodes[index] = nodes[index] with { Count = 0, Right = right };
        }

        return index;
    }

    /// <summary>Finds the nearest body on the ray, or with <paramref name="any"/> whether there is one at all.</summary>
    [System.Runtime.CompilerServices.SkipLocalsInit]
    public bool Meet(in Ray ray, ref Hit hit, ref Rng rng, bool any = false)
    {
        if (nodes.Count == 0)
        {
            return false;
        }

        var found = false;
        var inverse = Vector3.One / ray.Direction;
        var span = System.Runtime.InteropServices.CollectionsMarshal.AsSpan(nodes);
        Span<(int Index, float Enter)> stack = stackalloc (int, float)[64];
        var depth = 0;
        stack[depth++] = (0, Enter(span[0], ray.Origin, inverse, hit.T));
        while (depth > 0)
        {
            var (index, enter) = stack[--depth];
            if (enter > hit.T * 1.0005f)
            {
                continue;
            }

            ref readonly var node = ref span[index];
            if (node.Count > 0)
            {
                for (var i = node.First; i < node.First + node.Count; i++)
                {
                    if (bodies[i].Meet(ray, ref hit, ref rng))
                    {
                        found = true;
                        if (any)
                        {
                            return true;
                        }
                    }
                }

                continue;
            }

            var left = Enter(span[index + 1], ray.Origin, inverse, hit.T);
            var right = Enter(span[node.Right], ray.Origin, inverse, hit.T);
            var (near, far) = left <= right ? ((index + 1, left), (node.Right, right)) : ((node.Right, right), (index + 1, left));
            if (far.Item2 < float.MaxValue)
            {
                stack[depth++] = far;
            }

            if (near.Item2 < float.MaxValue)
            {
                stack[depth++] = near;
            }
        }

        return found;
    }

    /// <summary>Distance at which the ray enters the node's box, or the largest number when it does not before <paramref name="limit"/>.</summary>
    static float Enter(in Node node, Vector3 origin, Vector3 inverse, float limit)
    {
        var t0 = (node.Low - origin) * inverse;
        var t1 = (node.High - origin) * inverse;
        var low = Vector3.Min(t0, t1);
        var high = Vector3.Max(t0, t1);
        var enter = MathF.Max(MathF.Max(low.X, low.Y), MathF.Max(low.Z, 0f));
        var leave = MathF.Min(MathF.Min(high.X, high.Y), MathF.Min(high.Z, limit));
        // A sub-pixel rod reaches a little outside its box; half a thousandth of the way covers it.
        return enter > leave + (0.0005f * enter) ? float.MaxValue : enter;
    }
}
