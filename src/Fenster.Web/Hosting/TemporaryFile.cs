namespace Fenster.Web.Hosting;

/// <summary>A file that waits on the disk and is gone once it is closed.</summary>
internal static class TemporaryFile
{
    public static FileStream New() =>
        new(
            Path.Combine(Path.GetTempPath(), Path.GetRandomFileName()),
            new FileStreamOptions
            {
                Mode = FileMode.CreateNew,
                Access = FileAccess.ReadWrite,
                Options = FileOptions.DeleteOnClose | FileOptions.Asynchronous,
                BufferSize = 81920,
            }
        );
}
