namespace Fenster.Web.Pages;

/// <summary>Which page of a list is seen.</summary>
/// <param name="Number">From 1.</param>
/// <param name="HasMore">Whether there is a page after it.</param>
/// <param name="Url">Of a page by its number.</param>
/// <param name="Count">How many pages there are; null where that was not counted.</param>
public sealed record PagesOfList(int Number, bool HasMore, Func<int, string> Url, int? Count = null);
