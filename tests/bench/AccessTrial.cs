using Jovitar.Core.Access;
using Jovitar.Core.Clearance;

namespace Jovitar.Bench;

/// <summary>Photos behind up to three gates each, decided for a member of some of 200 groups who holds half of the gates.</summary>
internal sealed class AccessTrial
{
    public const int Photos = 100_000;
    public const int Gates = 200;
    const int Groups = 200;

    static readonly DateTimeOffset At = new(2027, 3, 1, 12, 0, 0, TimeSpan.Zero);

    readonly PhotoThing[] photos;
    readonly Viewer viewer;

    public AccessTrial()
    {
        var random = new Random(5);
        Audience Any() => new((Admitted)random.Next((int)Admitted.Staff), null, At.AddDays(random.Next(-9, 99))) { Chosen = [.. Enumerable.Range(0, 3).Select(_ => Group(random.Next(Groups)))] };
        Gate[] gates = [.. Enumerable.Range(1, Gates).Select(n => new Gate(new Guid(n, 0, 0, new byte[8]), "category", $"Category {n}", Any()))];
        photos = [.. Enumerable.Range(0, Photos).Select(_ => new PhotoThing(PhotoState.Ready, LeftOut: false, Binned: false, new ShownOn(1), PhotoClearance.Nothing) { Gates = [.. Enumerable.Range(0, random.Next(4)).Select(_ => gates[random.Next(gates.Length)])] })];
        viewer = new Viewer(Role.Member) { Holds = gates.Where(_ => random.Next(2) == 0).Select(g => g.Thing).ToHashSet(), Is = Enumerable.Range(0, 8).Select(_ => Group(random.Next(Groups))).ToHashSet() };
    }

    static Guid Group(int n) => new(n, 1, 0, new byte[8]);

    /// <summary>So many the visitor sees.</summary>
    public int Seen { get; private set; }

    public void Decide() => Seen = photos.Count(p => Access.Decide(viewer, Right.See, p, At).Allowed);
}
