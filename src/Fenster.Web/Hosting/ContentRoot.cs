namespace Fenster.Web.Hosting;

internal static class ContentRoot
{
    /// <summary>The nearest folder, from the program upwards, that has <c>wwwroot</c>.</summary>
    public static string Find()
    {
        for (var folder = new DirectoryInfo(AppContext.BaseDirectory); folder is not null; folder = folder.Parent)
            if (Directory.Exists(Path.Combine(folder.FullName, "wwwroot")))
                return folder.FullName;
        return AppContext.BaseDirectory;
    }
}
