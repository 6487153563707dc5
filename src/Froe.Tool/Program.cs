using Froe.Formats.Pdf;
using Froe.Tool;

return args switch
{
    ["read", .. var rest] => ReadCommand.Run(rest),
    ["prepare", var file, var folder, var name] => PrepareCommand.Run(file, folder, name),
    ["beside", var file, var folder, var name] => PrepareCommand.Beside(file, folder, name),
    ["series"] => SeriesCommand.Run(),
    ["send-out", var folder] => ExchangeCommand.SendOut(folder),
    ["review-sheet", var folder] => ExchangeCommand.ReviewSheet(folder),
    ["bring-in", var folder] => ExchangeCommand.BringIn(folder),
    ["pasted", var folder] => ExchangeCommand.Pasted(folder),
    ["typed-dimensions", var folder] => ExchangeCommand.TypedDimensions(folder),
    ["verify", .. var rest] => await VerifyCommand.RunAsync(rest),
    // Makes what a first reading would have to wait for; whoever builds Froe runs it once.
    ["ready"] => EngineModule.MakeReady() ? 0 : 1,
    ["migrate"] => MigrateCommand.Run(),
    ["admin", .. var rest] => await AdminCommand.RunAsync(rest),
    _ => Usage(),
};

static int Usage()
{
    Console.Error.WriteLine("usage: froe read FILE… [--survey | --png OUT] | froe verify | froe migrate | froe admin LOGIN");
    return 2;
}
