namespace Fenster.Testing;

/// <summary>What a person who looks at a screen would see is wrong with its words.</summary>
public static class Layout
{
    /// <summary>Words that are cut off by what they stand in, that leave the window, or that lie over other words.</summary>
    public static IReadOnlyList<string> CutOrCovered(this Browser browser) =>
        [.. browser.Script<IReadOnlyCollection<object>>(Script).Select(found => $"{found}")];

    private const string Script = """
        const isClipped = around => !!around && (getComputedStyle(around).clipPath.startsWith('inset') || isClipped(around.parentElement))
        const seen = element => element.checkVisibility({ opacityProperty: true, visibilityProperty: true }) && !element.closest('.visually-hidden, .skip, [aria-hidden=true], datalist, svg') && !isClipped(element)
        // A line of the rules is cut on purpose, and opened by a touch; what stands on the picture is as large as its zone.
        const onPurpose = element => element.closest('.rule:not(.rule-open), .stage, option, .label, .cards h2, .top-path')
        const scrolls = style => /auto|scroll/.test(style.overflowX + style.overflowY)
        const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
        const words = []
        while (walker.nextNode()) {
          const text = walker.currentNode
          const element = text.parentElement
          if (!text.data.trim() || !seen(element) || onPurpose(element)) continue
          const range = document.createRange()
          range.selectNodeContents(text)
          // What is scrolled out of sight is seen by scrolling.
          const scroller = (function find(around) { return !around || scrolls(getComputedStyle(around)) ? around : find(around.parentElement) })(element)
          const sight = (scroller ?? document.documentElement).getBoundingClientRect()
          const boxes = [...range.getClientRects()].filter(box => box.width > 1 && box.height > 1 && (!scroller || (box.top >= sight.top - 1 && box.bottom <= sight.bottom + 1)))
          if (boxes.length > 0) words.push({ text: text.data.trim().slice(0, 40), element, boxes })
        }
        const found = []
        // What lies behind a dialog that holds everything else back is not looked at.
        const dialog = document.querySelector('dialog:modal')
        if (dialog) words.splice(0, words.length, ...words.filter(({ element }) => dialog.contains(element)))
        for (const { text, element, boxes } of words) {
          let isScrolled = false
          for (let around = element; around && around !== document.body; around = around.parentElement) {
            const style = getComputedStyle(around)
            const frame = around.getBoundingClientRect()
            if (scrolls(style)) { isScrolled = true; break }
            if (style.overflowX === 'visible') continue
            if (boxes.some(box => box.left < frame.left - 2 || box.right > frame.right + 2)) { found.push(`cut: ${text}`); break }
          }
          if (!isScrolled && boxes.some(box => box.left < -1 || box.right > innerWidth + 1)) found.push(`outside: ${text}`)
        }
        for (let i = 0; i < words.length; i++)
          for (let j = i + 1; j < words.length; j++)
            for (const a of words[i].boxes)
              for (const b of words[j].boxes) {
                const across = Math.min(a.right, b.right) - Math.max(a.left, b.left)
                const down = Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top)
                if (across > 3 && down > 0.4 * Math.min(a.height, b.height) && document.elementFromPoint(Math.max(a.left, b.left) + across / 2, Math.max(a.top, b.top) + down / 2))
                  found.push(`over each other: ${words[i].text} / ${words[j].text}`)
              }
        return [...new Set(found)]
        """;
}
