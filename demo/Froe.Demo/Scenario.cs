namespace Froe.Demo;
internal static class Scenario { public static Task<int> LoadAsync(string folder) => Task.FromResult(folder.Length > 0 ? 0 : 1); }
