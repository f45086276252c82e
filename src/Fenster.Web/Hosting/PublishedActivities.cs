using System.Collections.Concurrent;
using Fenster.Core.Model;
using Fenster.Formats.Documents;
using Fenster.Store;

namespace Fenster.Web.Hosting;

/// <summary>Published revisions, read once: they never change.</summary>
public sealed class PublishedActivities(Publications publications)
{
    private readonly ConcurrentDictionary<long, Activity> byRevision = new();

    public Activity Of(long revision) =>
        byRevision.GetOrAdd(revision, id => ActivityDocument.Read(publications.Document(id)));
}
