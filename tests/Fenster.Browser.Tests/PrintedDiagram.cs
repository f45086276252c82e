using Fenster.Testing;

namespace Fenster.BrowserTests;

/// <summary>A drawing of the shipped library with twelve names printed around it, as in a book.</summary>
internal static class PrintedDiagram
{
    public static readonly string[] Names =
    [
        "Cell membrane",
        "Nucleus",
        "Cytoplasm",
        "Nucleolus",
        "Mitochondrion",
        "Vacuole",
        "Endoplasmic reticulum",
        "Golgi apparatus",
        "Ribosome",
        "Lysosome",
        "Centriole",
        "Nuclear envelope",
    ];

    /// <summary>Where each leader line ends on the drawing, in pixels of 1200 by 800.</summary>
    private static readonly int[][] Ends =
    [
        [340, 290],
        [640, 400],
        [420, 330],
        [655, 420],
        [440, 355],
        [775, 440],
        [400, 455],
        [700, 560],
        [360, 500],
        [505, 640],
        [420, 610],
        [668, 470],
    ];

    private const string Script = """
        const [names, file, ends, done] = arguments
        const run = async () => {
          const image = new Image()
          image.src = file
          await image.decode()
          const canvas = document.createElement('canvas')
          Object.assign(canvas, { width: 1200, height: 800 })
          const x = canvas.getContext('2d')
          x.fillStyle = '#fff'
          x.fillRect(0, 0, 1200, 800)
          x.drawImage(image, 270, 130, 660, 530)
          x.fillStyle = x.strokeStyle = '#151515'
          x.font = '21px "DejaVu Sans"'
          names.forEach((name, i) => {
            const lines = name.length > 15 ? name.split(' ') : [name]
            const wide = Math.max(...lines.map(line => x.measureText(line).width))
            const [left, top] = [i % 2 ? 1180 - wide : 24, 70 + 128 * Math.floor(i / 2)]
            lines.forEach((line, n) => x.fillText(line, left, top + 25 * n))
            x.beginPath()
            x.moveTo(i % 2 ? left - 9 : left + wide + 9, top - 7)
            x.lineTo(...ends[i])
            x.stroke()
          })
          return canvas.toDataURL('image/png').split(',')[1]
        }
        run().then(done, error => done(String(error)))
        """;

    /// <returns>The path of a PNG; who asks for it deletes it.</returns>
    public static string Draw(Browser browser)
    {
        var base64 = (string)
            browser.ScriptAsync(
                Script,
                Names,
                browser.Script<string>(
                    "return document.querySelector('script[src*=\"/js/zone.js\"]').src.replace('js/zone.js', 'library/animal-cell.svg')"
                ),
                Ends
            );
        var file = Path.Combine(Path.GetTempPath(), $"printed-{Guid.NewGuid():n}.png");
        File.WriteAllBytes(file, Convert.FromBase64String(base64));
        return file;
    }
}
