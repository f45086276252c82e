using Fenster.Core.Model;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.Primitives;

namespace Fenster.Web.Hosting;

/// <summary>
/// The door through which addresses and forms come in: what is no sound text is left out of them (<see cref="SoundText"/>), so that no
/// page meets it. A form that can't be read is a refusal with a sentence. JSON has its own door, <c>SoundTextJson</c>.
/// </summary>
/// <remarks>In names of people controls stay: <see cref="PersonName"/> refuses who hides behind them.</remarks>
internal static class SoundInput
{
    /// <summary>How long a request may be is said before its form is read.</summary>
    private static readonly FormOptions Form = new() { MultipartBodyLengthLimit = long.MaxValue };

    public static void Use(HttpContext context)
    {
        var request = context.Request;
        // Everything that could be unsound is escaped in an address.
        if (request.QueryString.Value?.Contains('%', StringComparison.Ordinal) == true)
            request.Query = new QueryCollection(Sound(request.Query));
        // A form that only asks has no body, whatever its type says.
        context.Features.Set<IFormFeature>(
            HttpMethods.IsPost(request.Method) ? new SoundForm(new FormFeature(request, Form)) : new NoForm()
        );
    }

    private static Dictionary<string, StringValues> Sound(IEnumerable<KeyValuePair<string, StringValues>> fields) =>
        fields
            // Names of fields are the same whatever their capitals, as everywhere.
            .GroupBy(field => SoundText.Of(field.Key), StringComparer.OrdinalIgnoreCase)
            .ToDictionary(
                field => field.Key,
                field => new StringValues([
                    .. field.SelectMany(same => same.Value).Select(value => value is null ? null : Sound(field.Key, value)),
                ]),
                StringComparer.OrdinalIgnoreCase
            );

    private static string Sound(string field, string value) =>
        field is "name" or "names" ? SoundText.WithControls(value) : SoundText.Of(value);

    private sealed class NoForm : IFormFeature
    {
        public bool HasFormContentType => false;
        public IFormCollection? Form { get; set; } = FormCollection.Empty;

        public IFormCollection ReadForm() => FormCollection.Empty;

        public Task<IFormCollection> ReadFormAsync(CancellationToken cancellationToken) =>
            Task.FromResult<IFormCollection>(FormCollection.Empty);
    }

    private sealed class SoundForm(FormFeature inner) : IFormFeature
    {
        private IFormCollection? form;

        public bool HasFormContentType => inner.HasFormContentType;
        public IFormCollection? Form
        {
            get => form;
            set => form = value;
        }

        public IFormCollection ReadForm() => form ?? Reading(() => Task.FromResult(inner.ReadForm())).GetAwaiter().GetResult();

        public async Task<IFormCollection> ReadFormAsync(CancellationToken cancellationToken) =>
            form ?? await Reading(() => inner.ReadFormAsync(cancellationToken));

        private async Task<IFormCollection> Reading(Func<Task<IFormCollection>> read)
        {
            try
            {
                var typed = await read();
                return form = new FormCollection(Sound(typed), typed.Files);
            }
            catch (Exception exception)
                when (exception is InvalidDataException or NotSupportedException or ArgumentException or InvalidOperationException)
            {
                throw new BadHttpRequestException("a form that can't be read", exception);
            }
            catch (IOException exception) when (exception is not BadHttpRequestException && !Problems.IsOfDisk(exception))
            {
                // It ended before it was whole.
                throw new BadHttpRequestException("a form that is not whole", exception);
            }
        }
    }
}
