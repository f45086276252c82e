using Fenster.Core.Model;

namespace Fenster.Web.Hosting;

/// <summary>What was sent can't be taken.</summary>
public sealed class RequestRefused(Said said) : SaidException(said);
