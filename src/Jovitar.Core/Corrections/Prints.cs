namespace Jovitar.Core.Corrections;

/// <summary>
/// Finds the prints that lie on the glass of a scanner: what differs from the ground round them, each as the smallest rectangle
/// that holds it, however askew it lies.
/// </summary>
/// <remarks>
/// The ground is the commonest colour along the edge of the scan. What differs from it by more than the ground's own noise is
/// gathered into patches; round each patch the convex hull is laid (Andrew's monotone chain, 1979), and the smallest rectangle
/// round a hull has a side along one of the hull's (Freeman and Shapira, Communications of the ACM 18, 1975).
/// </remarks>
public static class Prints
{
    /// <summary>The longer side of the small picture that is looked at, pixels.</summary>
    public const int Side = 700;

    /// <summary>More than a glass holds, and few enough to look through.</summary>
    public const int Most = 24;

    /// <summary>Patches that are looked at, the largest: a scan of nothing but specks would keep one busy for long.</summary>
    const int MostPatches = 256;

    /// <summary>A print takes at least this part of the scan.</summary>
    const double LeastArea = 0.006;

    /// <summary>And fills at least this part of its rectangle.</summary>
    const double LeastFilled = 0.6;

    /// <summary>The rim of a print, its shadow and its blur, is left away, pixels of the small picture.</summary>
    const double Rim = 1.5;

    /// <summary>The corrections that cut each print out of a scan and set it upright, in reading order; empty when the scan is one picture.</summary>
    /// <param name="rgb">A small picture of the scan, three bytes a pixel, row after row.</param>
    public static IReadOnlyList<Correction> Find(ReadOnlySpan<byte> rgb, int width, int height)
    {
        if (width < 16 || height < 16)
        {
            return [];
        }

        var patches = Joined(Patches(Smoothed(Differs(rgb, width, height), width, height), width, height), width * height);
        var size = new PixelSize(width, height);
        var found = patches.Select(p => p.Round).Where(r => r.Width > 2 * Rim && r.Height > 2 * Rim).ToArray();
        return found is [{ } one] && one.Width * one.Height > 0.97 * width * height
            ? []
            : [.. Reading(found).Take(Most).Select(r => Cut(r, size))];
    }

    /// <summary>A rectangle askew: its middle, its sides, and how far it is rotated clockwise, −45 to 45 degrees.</summary>
    readonly record struct Askew(double X, double Y, double Width, double Height, double Angle);

    sealed record Patch(List<(int X, int Y)> Hull, int Pixels)
    {
        public Askew Round { get; } = Smallest(Hull);
    }

    static Correction Cut(Askew r, PixelSize size)
    {
        // The picture is rotated the other way, and the print's middle goes along.
        var (x, y) = Framing.Rotate(r.X - (size.Width / 2.0), r.Y - (size.Height / 2.0), -r.Angle);
        var (w, h) = (r.Width - (2 * Rim), r.Height - (2 * Rim));
        return new Correction
        {
            Angle = -r.Angle,
            Crop = new Crop(((x - (w / 2)) / size.Width) + 0.5, ((y - (h / 2)) / size.Height) + 0.5, w / size.Width, h / size.Height),
        }.Within(size);
    }

    /// <summary>From the top down, and what stands side by side from the left.</summary>
    static IEnumerable<Askew> Reading(IEnumerable<Askew> prints)
    {
        var left = prints.OrderBy(p => p.Y).ToList();
        while (left.Count > 0)
        {
            var first = left[0];
            var row = left.Where(p => p.Y - first.Y < first.Height / 2).OrderBy(p => p.X).ToArray();
            foreach (var print in row)
            {
                yield return print;
            }

            left.RemoveAll(row.Contains);
        }
    }

    /// <summary>What is not ground.</summary>
    static bool[] Differs(ReadOnlySpan<byte> rgb, int width, int height)
    {
        var rim = Math.Max(2, Math.Min(width, height) / 60);
        var (r, g, b, noise) = Ground(rgb, width, height, rim);
        var limit = Math.Max(14, 6 * noise);
        var differs = new bool[width * height];
        for (var i = 0; i < differs.Length; i++)
        {
            var away = Math.Max(Math.Abs(rgb[3 * i] - r), Math.Max(Math.Abs(rgb[(3 * i) + 1] - g), Math.Abs(rgb[(3 * i) + 2] - b)));
            differs[i] = away > limit;
        }

        return differs;
    }

    /// <summary>The commonest colour along the edge, and how far the ground strays from it.</summary>
    static (double Red, double Green, double Blue, double Noise) Ground(ReadOnlySpan<byte> rgb, int width, int height, int rim)
    {
        var bins = new Dictionary<int, (int Count, long R, long G, long B)>();
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                if (x >= rim && y >= rim && x < width - rim && y < height - rim)
                {
                    continue;
                }

                var at = 3 * ((y * width) + x);
                var bin = (rgb[at] >> 4 << 8) | (rgb[at + 1] >> 4 << 4) | (rgb[at + 2] >> 4);
                var sum = bins.GetValueOrDefault(bin);
                bins[bin] = (sum.Count + 1, sum.R + rgb[at], sum.G + rgb[at + 1], sum.B + rgb[at + 2]);
            }
        }

        var most = bins.Values.MaxBy(v => v.Count);
        var (r, g, b) = (most.R / (double)most.Count, most.G / (double)most.Count, most.B / (double)most.Count);
        var strays = new List<double>();
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var at = 3 * ((y * width) + x);
                if ((x < rim || y < rim || x >= width - rim || y >= height - rim) && Math.Abs(rgb[at] - r) < 24 && Math.Abs(rgb[at + 1] - g) < 24 && Math.Abs(rgb[at + 2] - b) < 24)
                {
                    strays.Add(Math.Abs(rgb[at + 1] - g));
                }
            }
        }

        strays.Sort();
        return (r, g, b, strays.Count == 0 ? 0 : strays[strays.Count * 3 / 4]);
    }

    /// <summary>Specks go, and small holes are closed: a pixel is what most of the twenty-five about it are.</summary>
    static bool[] Smoothed(bool[] differs, int width, int height)
    {
        const int Reach = 2;
        var smooth = new bool[differs.Length];
        for (var y = 0; y < height; y++)
        {
            for (var x = 0; x < width; x++)
            {
                var (yes, all) = (0, 0);
                for (var v = Math.Max(0, y - Reach); v <= Math.Min(height - 1, y + Reach); v++)
                {
                    for (var u = Math.Max(0, x - Reach); u <= Math.Min(width - 1, x + Reach); u++)
                    {
                        all++;
                        yes += differs[(v * width) + u] ? 1 : 0;
                    }
                }

                smooth[(y * width) + x] = 2 * yes > all;
            }
        }

        return smooth;
    }

    static List<Patch> Patches(bool[] differs, int width, int height)
    {
        var patches = new List<Patch>();
        var seen = new bool[differs.Length];
        var queue = new Stack<int>();
        for (var start = 0; start < differs.Length; start++)
        {
            if (!differs[start] || seen[start])
            {
                continue;
            }

            // Of each row only the ends matter to the hull.
            var (ends, pixels) = (new Dictionary<int, (int Left, int Right)>(), 0);
            seen[start] = true;
            queue.Push(start);
            while (queue.TryPop(out var at))
            {
                pixels++;
                var (x, y) = (at % width, at / width);
                var row = ends.GetValueOrDefault(y, (x, x));
                ends[y] = (Math.Min(row.Item1, x), Math.Max(row.Item2, x));
                for (var v = Math.Max(0, y - 1); v <= Math.Min(height - 1, y + 1); v++)
                {
                    for (var u = Math.Max(0, x - 1); u <= Math.Min(width - 1, x + 1); u++)
                    {
                        var next = (v * width) + u;
                        if (differs[next] && !seen[next])
                        {
                            seen[next] = true;
                            queue.Push(next);
                        }
                    }
                }
            }

            if (pixels >= 12)
            {
                // Pixels are squares: their corners are what the rectangle must hold.
                patches.Add(new Patch(Hull(ends.SelectMany(e => new[] { (e.Value.Left, e.Key), (e.Value.Right + 1, e.Key), (e.Value.Left, e.Key + 1), (e.Value.Right + 1, e.Key + 1) })), pixels));
            }
        }

        return patches;
    }

    /// <summary>Patches of one print are joined: those whose middles lie in the rectangle of a larger one. What is too small or no rectangle goes.</summary>
    static List<Patch> Joined(List<Patch> patches, int area)
    {
        var joined = new List<Patch>();
        foreach (var patch in patches.OrderByDescending(p => p.Pixels).Take(MostPatches))
        {
            var home = joined.FindIndex(p => Holds(p.Round, patch.Round.X, patch.Round.Y));
            if (home < 0)
            {
                joined.Add(patch);
            }
            else
            {
                joined[home] = new Patch(Hull(joined[home].Hull.Concat(patch.Hull)), joined[home].Pixels + patch.Pixels);
            }
        }

        return [.. joined.Where(p => p.Round.Width * p.Round.Height >= LeastArea * area && HullArea(p.Hull) >= LeastFilled * p.Round.Width * p.Round.Height)];
    }

    static bool Holds(Askew r, double x, double y)
    {
        var (dx, dy) = Framing.Rotate(x - r.X, y - r.Y, -r.Angle);
        return Math.Abs(dx) <= r.Width / 2 && Math.Abs(dy) <= r.Height / 2;
    }

    static List<(int X, int Y)> Hull(IEnumerable<(int X, int Y)> points)
    {
        var sorted = points.Distinct().OrderBy(p => p.X).ThenBy(p => p.Y).ToArray();
        var hull = new List<(int X, int Y)>();
        foreach (var way in new[] { sorted, [.. sorted.Reverse()] })
        {
            var start = hull.Count;
            foreach (var p in way)
            {
                while (hull.Count >= start + 2 && Cross(hull[^2], hull[^1], p) <= 0)
                {
                    hull.RemoveAt(hull.Count - 1);
                }

                hull.Add(p);
            }

            hull.RemoveAt(hull.Count - 1);
        }

        return hull;
    }

    static long Cross((int X, int Y) a, (int X, int Y) b, (int X, int Y) c) => ((long)(b.X - a.X) * (c.Y - a.Y)) - ((long)(b.Y - a.Y) * (c.X - a.X));

    static double HullArea(List<(int X, int Y)> hull) => Math.Abs(hull.Select((p, i) => ((long)p.X * hull[(i + 1) % hull.Count].Y) - ((long)hull[(i + 1) % hull.Count].X * p.Y)).Sum()) / 2.0;

    static Askew Smallest(List<(int X, int Y)> hull)
    {
        var best = default(Askew);
        var least = double.MaxValue;
        for (var i = 0; i < hull.Count; i++)
        {
            var (a, b) = (hull[i], hull[(i + 1) % hull.Count]);
            var angle = Math.Atan2(b.Y - a.Y, b.X - a.X);
            var (sin, cos) = Math.SinCos(angle);
            var (left, right, top, bottom) = (double.MaxValue, double.MinValue, double.MaxValue, double.MinValue);
            foreach (var (x, y) in hull)
            {
                var (u, v) = ((x * cos) + (y * sin), (y * cos) - (x * sin));
                (left, right, top, bottom) = (Math.Min(left, u), Math.Max(right, u), Math.Min(top, v), Math.Max(bottom, v));
            }

            var (w, h) = (right - left, bottom - top);
            if (w * h >= least)
            {
                continue;
            }

            least = w * h;
            var (cu, cv) = ((left + right) / 2, (top + bottom) / 2);
            var degrees = angle * 180 / Math.PI;
            var quarters = (int)Math.Round(degrees / 90);
            best = new Askew((cu * cos) - (cv * sin), (cu * sin) + (cv * cos), quarters % 2 == 0 ? w : h, quarters % 2 == 0 ? h : w, degrees - (90 * quarters));
        }

        return best;
    }
}
