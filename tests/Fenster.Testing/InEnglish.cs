using Fenster.Core.Model;
using Fenster.Core.Proofing;
using Fenster.Words;

namespace Fenster.Testing;

/// <summary>What is said in words, as an English reader gets it.</summary>
public static class InEnglish
{
    extension(Finding finding)
    {
        public string Sentence => Language.English.Say(finding.Said);
    }

    extension(Obstacle obstacle)
    {
        public string Sentence => Language.English.Say(obstacle.Said);
    }

    extension(Remark remark)
    {
        public string Sentence => Language.English.Say(remark.Said);
    }

    extension(SaidException refused)
    {
        public string Sentence => Language.English.Say(refused.Said);
    }
}
