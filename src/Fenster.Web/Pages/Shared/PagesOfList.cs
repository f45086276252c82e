namespace Fenster.Web.Pages;

/// <summary>Which page of a list is seen.</summary>
/// <param name="Number">From 1.</param>
/// <param name="Url">Of a page by its number.</param>
public sealed record PagesOfList(int Number, int Count, Func<int, string> Url);
