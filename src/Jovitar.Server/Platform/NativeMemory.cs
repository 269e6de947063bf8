using System.Runtime.InteropServices;

namespace Jovitar.Server.Platform;

/// <summary>Keeps what libvips takes and gives back from piling up: glibc would otherwise keep heaps for each of many threads.</summary>
internal static partial class NativeMemory
{
    const int ArenaMax = -8;
    const int TrimThreshold = -1;
    const int MmapThreshold = -3;

    /// <summary>Two heaps for all threads, and large pieces handed back to the system as soon as they are free (mallopt(3)).</summary>
    public static void KeepFlat()
    {
        if (OperatingSystem.IsLinux())
        {
            _ = Mallopt(ArenaMax, 2);
            _ = Mallopt(MmapThreshold, 128 * 1024);
            _ = Mallopt(TrimThreshold, 1024 * 1024);
        }
    }

    [LibraryImport("libc", EntryPoint = "mallopt")]
    private static partial int Mallopt(int parameter, int value);
}
