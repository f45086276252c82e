using System.Globalization;
using System.Text.Encodings.Web;
using Fenster.Words;
using Microsoft.AspNetCore.Html;

namespace Fenster.Web.Hosting;

/// <summary>What a page says: the sentences of its language, and times in the zone of whoever reads it.</summary>
public sealed class PageLanguage(IHttpContextAccessor accessor, HtmlEncoder encoder)
{
    private HttpContext Context => accessor.HttpContext!;

    public Language Language
    {
        get => field ??= Languages.Of(Context);
        private set;
    }

    /// <summary>The page is for anybody, in any language that there is: what only teachers read is not on it.</summary>
    public void AreForAnybody() => Language = Languages.OfAnybody(Context);

    private TimeZoneInfo Zone => field ??= Languages.ZoneOf(Context);

    public string this[string name, params ReadOnlySpan<(string Slot, object Value)> slots] => Language.Say(name, slots);

    /// <summary>How much an activity holds, such as "2 pictures, 5 rows".</summary>
    public string Content(long panes, long targets)
    {
        var rows = this["common.rows", ("count", targets)];
        return panes == 1 ? rows : this["history.content", ("pictures", this["common.pictures", ("count", panes)]), ("rows", rows)];
    }

    /// <summary>A sentence with markup in some of its slots.</summary>
    public IHtmlContent Html(string name, params ReadOnlySpan<(string Slot, object Value)> slots)
    {
        var html = new HtmlContentBuilder();
        foreach (var (text, slot) in Language.Parts(name, slots))
            if (slot is IHtmlContent markup)
                html.AppendHtml(markup);
            else
                html.Append(slot is null ? text : Language.Written(slot));
        return html;
    }

    public IHtmlContent Bold(object text, string? classes = null, string? id = null) =>
        Raw($"<b{Attribute("class", classes)}{Attribute("id", id)}>{encoder.Encode(text as string ?? Language.Written(text))}</b>");

    private string Attribute(string name, string? value) => value is null ? "" : $" {name}=\"{encoder.Encode(value)}\"";

    /// <param name="html">Of our own making.</param>
    public IHtmlContent Raw(string html) => new HtmlString(html);

    public string Time(DateTimeOffset at) => Zoned(Local(at).ToString("t", Language.Culture));

    /// <summary>To the second.</summary>
    public string Seconds(DateTimeOffset at) => Local(at).ToString("T", Language.Culture);

    public string Day(DateTimeOffset at) => Local(at).ToString("D", Language.Culture);

    public string DateAndTime(DateTimeOffset at) => Zoned(Local(at).ToString("f", Language.Culture));

    /// <summary>How long something took, to the second.</summary>
    public string Took(TimeSpan time) =>
        time < TimeSpan.FromMinutes(1)
            ? Language.Say("results.tookSeconds", ("seconds", (int)time.TotalSeconds))
            : Language.Say("results.tookMinutes", ("minutes", (int)time.TotalMinutes), ("seconds", time.Seconds));

    /// <summary>By the clock of whoever reads it, to the second.</summary>
    public DateTime LocalTime(DateTimeOffset at)
    {
        var local = Local(at).DateTime;
        return local.AddTicks(-(local.Ticks % TimeSpan.TicksPerSecond));
    }

    /// <summary>The day as forms write it.</summary>
    public string DateOf(DateTimeOffset at) => Local(at).ToString("yyyy-MM-dd", CultureInfo.InvariantCulture);

    /// <summary>Without the year.</summary>
    public string DayAndTime(DateTimeOffset at) => Language.Listed([Local(at).ToString("M", Language.Culture), Time(at)]);

    /// <summary>When a day began, for whoever reads it.</summary>
    public DateTimeOffset StartOfDay(DateTimeOffset at) => Local(at).AddTicks(-Local(at).TimeOfDay.Ticks);

    private DateTimeOffset Local(DateTimeOffset at) => TimeZoneInfo.ConvertTime(at, Zone);

    /// <summary>Where nobody knows the zone, it is named.</summary>
    private string Zoned(string time) => Zone == TimeZoneInfo.Utc ? $"{time} UTC" : time;
}
