using System.Globalization;
using System.Numerics;

namespace Fenster.Core.Model;

/// <summary>
/// A decimal number without rounding and of any size between 10⁻⁴⁰⁰ and 10⁴⁰⁰: 2.6 − 2.5 is 0.1 exactly, and Planck's
/// constant is not 0.
/// </summary>
public readonly record struct ExactNumber : IComparable<ExactNumber>
{
    public const int LargestExponent = 400;
    private const int MostDigits = 400;

    public static readonly ExactNumber Zero;

    private readonly BigInteger digits;
    private readonly int exponent;

    private ExactNumber(BigInteger digits, int exponent)
    {
        // One form for each value, so that equal numbers are equal records.
        while (!digits.IsZero && digits % 10 == 0)
            (digits, exponent) = (digits / 10, exponent + 1);
        this.digits = digits;
        this.exponent = digits.IsZero ? 0 : exponent;
    }

    public bool IsNegative => digits.Sign < 0;

    /// <summary>Answers have up to so many digits.</summary>
    public const int MostDigitsOfAnswer = 30;

    /// <summary>Answers lie within ten to the power of plus and minus this.</summary>
    public const int LargestExponentOfAnswer = 300;

    /// <summary>How the number is out of bounds for an answer, as the end of a sentence; null when it is not.</summary>
    internal string? Fault
    {
        get
        {
            var length = BigInteger.Abs(digits).ToString(CultureInfo.InvariantCulture).Length;
            return length > MostDigitsOfAnswer ? $"has a number of more than {MostDigitsOfAnswer} digits"
                // Ten to that power is allowed still, which is a one and no other digit.
                : Math.Abs(exponent) > LargestExponentOfAnswer
                || length + exponent > LargestExponentOfAnswer + (BigInteger.Abs(digits).IsOne ? 1 : 0)
                    ? $"has a number beyond ten to the power of {LargestExponentOfAnswer}"
                : null;
        }
    }

    public static implicit operator ExactNumber(decimal value) =>
        Parse(value.ToString(CultureInfo.InvariantCulture)) ?? throw new InvalidOperationException("A decimal is always a number.");

    /// <summary>Reads <c>-12.5e3</c>: a sign, digits with one point at most, an exponent; null when it is anything else.</summary>
    public static ExactNumber? Parse(ReadOnlySpan<char> text)
    {
        var power = 0;
        if (text.IndexOfAny('e', 'E') is var e and >= 0)
        {
            if (
                !int.TryParse(text[(e + 1)..], NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out power)
                || Math.Abs((long)power) > LargestExponent
            )
                return null;
            text = text[..e];
        }
        var negative = text is ['-', ..];
        if (text is ['-' or '+', ..])
            text = text[1..];
        var point = text.IndexOf('.');
        Span<char> plain = new char[text.Length];
        var length = 0;
        for (var i = 0; i < text.Length; i++)
        {
            if (i == point)
                continue;
            if (!char.IsAsciiDigit(text[i]))
                return null;
            plain[length++] = text[i];
        }
        if (length is 0 or > MostDigits)
            return null;
        var value = BigInteger.Parse(plain[..length], NumberStyles.None, CultureInfo.InvariantCulture);
        return new(negative ? -value : value, power - (point < 0 ? 0 : text.Length - point - 1));
    }

    public static ExactNumber operator -(ExactNumber a, ExactNumber b)
    {
        var common = Math.Min(a.exponent, b.exponent);
        return new(a.Scaled(common) - b.Scaled(common), common);
    }

    public static ExactNumber operator +(ExactNumber a, ExactNumber b) => a - new ExactNumber(-b.digits, b.exponent);

    public static ExactNumber operator *(ExactNumber a, ExactNumber b) => new(a.digits * b.digits, a.exponent + b.exponent);

    /// <summary>The number divided: exactly where that is a decimal number, otherwise to 40 digits more than it has.</summary>
    /// <param name="by">Above 0.</param>
    internal ExactNumber Over(int by) => new(digits * BigInteger.Pow(10, 40) / by, exponent - 40);

    public ExactNumber Abs() => new(BigInteger.Abs(digits), exponent);

    public int CompareTo(ExactNumber other) => (this - other).digits.Sign;

    public static bool operator <=(ExactNumber a, ExactNumber b) => a.CompareTo(b) <= 0;

    public static bool operator >=(ExactNumber a, ExactNumber b) => a.CompareTo(b) >= 0;

    public static bool operator <(ExactNumber a, ExactNumber b) => a.CompareTo(b) < 0;

    public static bool operator >(ExactNumber a, ExactNumber b) => a.CompareTo(b) > 0;

    private BigInteger Scaled(int to) => digits * BigInteger.Pow(10, exponent - to);

    /// <summary>As JSON writes a number.</summary>
    public override string ToString() =>
        exponent is >= 0 and <= 20 ? Scaled(0).ToString(CultureInfo.InvariantCulture)
        : exponent is < 0 and >= -20 ? WithPoint()
        : string.Create(CultureInfo.InvariantCulture, $"{digits}e{exponent}");

    private string WithPoint()
    {
        var plain = BigInteger.Abs(digits).ToString(CultureInfo.InvariantCulture).PadLeft(1 - exponent, '0');
        return $"{(IsNegative ? "-" : "")}{plain[..^-exponent]}.{plain[^-exponent..]}";
    }
}
