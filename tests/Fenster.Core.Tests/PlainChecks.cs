using Fenster.Core.Model;

namespace Fenster.Core.Checking;

/// <summary>Checks as they are where mistakes cost nothing and nobody has awarded anything.</summary>
internal static class PlainChecks
{
    extension(Checker)
    {
        public static PaneMarks Check(Pane pane, Response response) => Checker.Check(pane, response, new ScoreRules());
    }

    extension(Tries)
    {
        public static int For(Pane pane, Target target, Response response) =>
            Tries.For(pane, target, response, Checker.Check(pane, response));
    }
}
