using Froe.Demo;

return args switch
{
    ["drawings", var folder] => Drawings.WriteAll(folder),
    ["load", var folder] => await Scenario.LoadAsync(folder),
    ["large", var file, var lines] => LargeDrawing.Write(file, int.Parse(lines, System.Globalization.CultureInfo.InvariantCulture)),
    _ => Usage(),
};

static int Usage()
{
    Console.Error.WriteLine("usage: drawings FOLDER | load FOLDER | large FILE LINES");
    return 2;
}
