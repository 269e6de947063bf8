using Microsoft.AspNetCore.Http.Metadata;

namespace Jovitar.Server.Intake;

/// <summary>The body's size is checked against the site's own limit while it streams, not by the server beforehand.</summary>
internal sealed class UnboundedBody : IRequestSizeLimitMetadata
{
    public long? MaxRequestBodySize => null;
}
