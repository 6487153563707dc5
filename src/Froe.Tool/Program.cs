using Froe.Tool;

return args switch
{
    ["read", .. var rest] => ReadCommand.Run(rest),
    ["prepare", var file, var folder, var name] => PrepareCommand.Run(file, folder, name),
    ["verify", .. var rest] => await VerifyCommand.RunAsync(rest),
    ["migrate"] => MigrateCommand.Run(),
    ["admin", .. var rest] => await AdminCommand.RunAsync(rest),
    _ => Usage(),
};

static int Usage()
{
    Console.Error.WriteLine("usage: froe read FILE… [--survey | --png OUT] | froe verify | froe migrate | froe admin LOGIN");
    return 2;
}
