using System.Text.Json;
using Fenster.Core.Model;

namespace Fenster.Words;

/// <summary>Why a move is not made, in words for the student.</summary>
public static class Refusals
{
    public static string Say(this Language language, Refusal refusal) =>
        language.Say($"refused.{JsonNamingPolicy.CamelCase.ConvertName(refusal.Why.ToString())}", ("count", refusal.Most));
}
