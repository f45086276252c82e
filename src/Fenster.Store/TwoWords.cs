using System.Security.Cryptography;

namespace Fenster.Store;

/// <summary>Two short words that are easy to say, to hear and to type, such as "amber kite": one of more than fifteen thousand.</summary>
public static class TwoWords
{
    private static readonly string[] First = (
        "amber apple autumn bold brave bright brisk calm candle cedar clear clever cloudy coral cosy "
        + "crisp curly dawn deep early eager easy even fair famous fern fine fresh "
        + "gentle giant glad golden grand great green happy honest humble icy ivory jade jolly keen kind "
        + "large late lemon light little lively lucky maple marble merry mild mint misty modern "
        + "neat new noble north oak olive open orange ocean paper pearl plain plum polite proud purple "
        + "quick quiet rapid ready red ripe river robin rosy round royal ruby rusty sandy "
        + "sharp shiny silent silver simple smart smooth snowy soft solid spring steady still stone strong "
        + "summer sunny sure swift tall tidy tiny velvet warm west white wide wild winter wise young"
    ).Split(' ');

    private static readonly string[] Second = (
        "acorn anchor arrow badge bagpipe banjo barn basket beach bell bench berry bird boat book bottle "
        + "branch bridge brook brush bucket button cabin candle canoe canyon carrot castle cello "
        + "chair cherry clock cloud clover coat coin comet compass cookie cottage cricket crown cup daisy desert "
        + "dolphin door dragon drum duck eagle engine falcon feather fiddle field flag flute "
        + "forest fountain fox garden gate globe goose grape guitar hammer harbour harp hat hill horse island "
        + "jacket jewel kettle kite ladder lake lamp lantern leaf lion lobster map meadow melon "
        + "mirror moon mountain needle nest oar orchard otter owl paddle panda path peach pebble pencil piano "
        + "pillow pine planet pony puffin rabbit raft rain ribbon ring robot rocket rope saddle "
        + "sail seal shell ship shoe spoon star stork stream swan table teapot tent tiger tower "
        + "train tree trumpet tulip turtle violin wagon whale whistle window wren"
    ).Split(' ');

    public static string New() =>
        $"{First[RandomNumberGenerator.GetInt32(First.Length)]} {Second[RandomNumberGenerator.GetInt32(Second.Length)]}";

    /// <summary>What a person typed, as the words it means: in small letters, with one blank between.</summary>
    public static string Tidy(string typed) =>
        string.Join(' ', typed.ToLowerInvariant().Split([' ', '-', '\t', '\u00A0'], StringSplitOptions.RemoveEmptyEntries));
}
