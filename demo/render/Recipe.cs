using System.Numerics;
using System.Text.Json.Serialization;

namespace Jovitar.Demo.Render;

/// <summary>The demo scenario as it stands in <c>demo/scenario.json</c>, as far as the renderer needs it.</summary>
internal sealed record Scenario(IReadOnlyList<ScenarioAlbum> Albums, string Copyright, ScenarioContributions Contributions);

/// <summary>What visitors of the demo's site sent in; it lies apart from what is taken in.</summary>
internal sealed record ScenarioContributions(IReadOnlyList<ScenarioSent> Sent);

internal sealed record ScenarioSent(IReadOnlyList<ScenarioPhoto> Photos);

internal sealed record ScenarioAlbum(string Name, IReadOnlyList<ScenarioPhoto> Photos);

/// <summary>One photograph: the words that are written into it and the recipe it is rendered by.</summary>
internal sealed record ScenarioPhoto(
    string File, string Title, string Caption, string Alt, string[] Tags, string By, string Taken, string Camera, string Lens,
    Recipe? Scene, string? Place = null, int Rating = 0);

/// <summary>What stands before the camera and how it is taken. Azimuths are degrees right of the view, lengths metres.</summary>
internal sealed record Recipe
{
    public string Kind { get; init; } = "strand";
    public int Seed { get; init; } = 1;
    public string Shape { get; init; } = "3:2";
    public SkyRecipe Sky { get; init; } = new();
    public CameraRecipe Camera { get; init; } = new();
    public GroundRecipe Ground { get; init; } = new();
    public KiteRecipe[] Kites { get; init; } = [];
    public FlockRecipe? Flock { get; init; }
    public CrowdRecipe[] People { get; init; } = [];
    public float Grass { get; init; }
    public int Banners { get; init; }
    public int Tents { get; init; }
    public int Lanterns { get; init; }
    public bool Fire { get; init; }
    public TrailRecipe[] Trails { get; init; } = [];
    public StillRecipe Still { get; init; } = new();
}

internal sealed record SkyRecipe
{
    [JsonPropertyName("az")] public float Azimuth { get; init; } = 130;
    [JsonPropertyName("el")] public float Elevation { get; init; } = 38;
    public float Cloud { get; init; } = 0.4f;
    public float CloudScale { get; init; } = 0.9f;
    public bool Wispy { get; init; }
    public float Haze { get; init; } = 0.25f;
    public float SunStrength { get; init; } = 1f;
    [JsonPropertyName("tint")] public float[] TintOf { get; init; } = [1f, 1f, 1f];
    [JsonIgnore] public Vector3 Tint => new(TintOf[0], TintOf[1], TintOf[2]);
}

internal sealed record CameraRecipe
{
    public float Height { get; init; } = 1.6f;
    public float Pitch { get; init; } = 8;
    public float Roll { get; init; }
    /// <summary>Focal length as on a 36 mm wide frame, millimetres.</summary>
    public float Focal { get; init; } = 35;
    public float FStop { get; init; } = 8;
    public float Focus { get; init; } = 40;
    /// <summary>Exposure correction in stops.</summary>
    public float Ev { get; init; }
    public float Grain { get; init; } = 1;
    public float Warmth { get; init; }
    public bool Mono { get; init; }
}

internal sealed record GroundRecipe
{
    /// <summary>Where the sea lies: 0 ahead, 90 to the right.</summary>
    public float Sea { get; init; }
    /// <summary>Distance from the camera to the water's edge; below 0 stands the camera in the sea.</summary>
    public float Shore { get; init; } = 60;
    public float Dune { get; init; } = 5;
    /// <summary>How far behind the camera, away from the water, dunes begin; negative puts them before the camera.</summary>
    public float DuneFrom { get; init; } = 15;
    public float Wet { get; init; } = 10;
    public float Wave { get; init; } = 1;
    public bool Snow { get; init; }
    public float Headland { get; init; } = 0.6f;
    public float Green { get; init; } = 0.5f;
}

/// <summary>One kite, placed by where the camera sees it.</summary>
internal sealed record KiteRecipe
{
    public string Kind { get; init; } = "delta";
    public string Pattern { get; init; } = "panels";
    public string[] Colours { get; init; } = ["vermilion", "cream", "ink"];
    public float Az { get; init; }
    public float El { get; init; } = 20;
    public float Distance { get; init; } = 25;
    public float Size { get; init; } = 2;
    public float Roll { get; init; }
    public float Yaw { get; init; }
    public float Lean { get; init; } = 35;
    public float Tail { get; init; }
    public float Glow { get; init; }
    /// <summary>Where the line meets the ground, azimuth and distance; without it the line leaves the frame.</summary>
    public float[]? Held { get; init; }
    public bool Line { get; init; } = true;
}

internal sealed record FlockRecipe
{
    public int Count { get; init; } = 12;
    public string[] Kinds { get; init; } = ["delta", "diamond", "foil", "hex", "box"];
    public float[] Az { get; init; } = [-25, 25];
    public float[] El { get; init; } = [6, 28];
    public float[] Distance { get; init; } = [40, 140];
    public float[] Size { get; init; } = [1.6f, 4f];
    public float Glow { get; init; }
}

internal sealed record CrowdRecipe
{
    public float Az { get; init; }
    public float Distance { get; init; } = 20;
    public int Count { get; init; } = 1;
    public float Spread { get; init; } = 1;
    public string Pose { get; init; } = "stand";
    public float Height { get; init; } = 1.72f;
    public float? Facing { get; init; }
}

internal sealed record TrailRecipe
{
    public float Az { get; init; }
    public float El { get; init; } = 20;
    public float Distance { get; init; } = 40;
    public float Size { get; init; } = 8;
    public string Colour { get; init; } = "marigold";
    public string Figure { get; init; } = "loops";
}

/// <summary>Close work: cloth, line and tools on a bench.</summary>
internal sealed record StillRecipe
{
    public string[] Colours { get; init; } = ["vermilion", "cream", "ink"];
    public string Pattern { get; init; } = "panels";
    public float Folds { get; init; } = 1;
    public int Spools { get; init; }
    public int Spars { get; init; }
    public bool Plan { get; init; }
    public bool Ruler { get; init; }
    public int Pencils { get; init; }
    public float Window { get; init; } = -50;
    public float Light { get; init; } = 1;
    public bool Cloth { get; init; } = true;
    public float View { get; init; } = 32;
    public float Range { get; init; } = 0.7f;
    public string Top { get; init; } = "wood";
}
