namespace Froe.Server.Files;

/// <summary>Marks an endpoint whose request's body is a file, of any length that can be uploaded.</summary>
public sealed class TakesFile;
