using System.Diagnostics;
using System.Globalization;
using System.Text.Json;
using Jovitar.Demo.Render;

// Renders the demo's photographs: render --scenario demo/scenario.json --out demo/photos --sent demo/sent [--long 1680] [--rays 10] [--only NAME,NAME] [--missing]
var options = new Dictionary<string, string>();
for (var i = 0; i < args.Length; i++)
{
    options[args[i].TrimStart('-')] = i + 1 < args.Length && !args[i + 1].StartsWith("--", StringComparison.Ordinal) ? args[++i] : "yes";
}

if (!options.TryGetValue("scenario", out var scenarioPath) || !options.TryGetValue("out", out var folder) || !options.TryGetValue("sent", out var sentFolder))
{
    Console.Error.WriteLine("Say which scenario and where to: --scenario demo/scenario.json --out FOLDER --sent FOLDER [--long PIXELS] [--rays COUNT] [--quality 1..100] [--only NAME,NAME] [--missing]");
    return 1;
}

int Number(string name, int otherwise) => options.TryGetValue(name, out var text) ? int.Parse(text, CultureInfo.InvariantCulture) : otherwise;
var scenario = JsonSerializer.Deserialize<Scenario>(File.ReadAllText(scenarioPath), new JsonSerializerOptions(JsonSerializerDefaults.Web) { ReadCommentHandling = JsonCommentHandling.Skip })!;
var only = options.TryGetValue("only", out var names) ? names.Split(',') : null;
Directory.CreateDirectory(folder);
Directory.CreateDirectory(sentFolder);
var all = scenario.Albums.SelectMany(a => a.Photos).Select(p => (Folder: folder, Photo: p)).Concat(scenario.Contributions.Sent.SelectMany(s => s.Photos).Select(p => (Folder: sentFolder, Photo: p)));
foreach (var (into, photo) in all.Where(p => p.Photo.Scene is not null).DistinctBy(p => p.Photo.File))
{
    var path = Path.Combine(into, photo.File);
    if ((only is not null && !only.Any(o => photo.File.Contains(o, StringComparison.Ordinal))) || (options.ContainsKey("missing") && File.Exists(path)))
    {
        continue;
    }

    var clock = Stopwatch.StartNew();
    var shape = photo.Scene!.Shape.Split(':').Select(s => double.Parse(s, CultureInfo.InvariantCulture)).ToArray();
    var edge = Number("long", 1680) * (Math.Max(shape[0] / shape[1], shape[1] / shape[0]) > 2 ? 1.25 : 1);
    var (width, height) = shape[0] >= shape[1] ? ((int)edge, (int)Math.Round(edge * shape[1] / shape[0])) : ((int)Math.Round(edge * shape[0] / shape[1]), (int)edge);
    var light = new Tracer(photo.Scene, width, height).Render(Number("rays", 10) * (photo.Scene.Kind == "strand" ? 1 : 2));
    var pixels = Film.Develop(light, width, height, photo.Scene.Camera, photo.Scene.Seed);
    PhotoWriter.Write(path, pixels, width, height, photo, scenario.Copyright, Number("quality", 80));
    Console.WriteLine(string.Create(CultureInfo.InvariantCulture, $"{photo.File}  {width} x {height}  {new FileInfo(path).Length / 1024} KB  {clock.Elapsed.TotalSeconds:0.0} s"));
}

return 0;
