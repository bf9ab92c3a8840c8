// Figures for docs/speed.md, called by bench/run: [--tiny] [NAME…], the names below
using Vitrine.Bench;

Size.IsTiny = args.Contains("--tiny");
var names = args.Where(a => a != "--tiny").ToArray();
var wanted =
    names.Length > 0
        ? names
        :
        [
            "counting",
            "tagpage",
            "search",
            "marking",
            "survey",
            "importing",
            "correcting",
            "printing",
            "finding",
            "together",
            "tagset",
            "grouping",
        ];
Console.WriteLine(
    $"{Environment.ProcessorCount} cores, "
        + $"{File.ReadLines("/proc/cpuinfo").First(l => l.StartsWith("model name", StringComparison.Ordinal)).Split(':')[1].Trim()}"
        + $", .NET {Environment.Version}\n"
);
foreach (var name in wanted)
{
    var folder = Directory.CreateTempSubdirectory("vitrine-bench-").FullName;
    try
    {
        switch (name)
        {
            case "counting":
                Counting.Run(folder);
                break;
            case "tagpage":
                await TagPages.Run(folder);
                break;
            case "search":
                Searching.Run(folder);
                break;
            case "importing":
                await Importing.Run(folder);
                break;
            case "correcting":
                Correcting.Run(folder);
                break;
            case "finding":
                Finding.Run(folder);
                break;
            case "together":
                await Together.Run(folder);
                break;
            case "tagset":
                await TagSets.Run(folder);
                break;
            case "grouping":
                Groupings.Run(folder);
                break;
            case "printing":
                Printing.Run(folder);
                break;
            case "survey":
                Surveying.Run(folder);
                break;
            case "marking":
                await Marking.Run(folder);
                break;
            default:
                Console.Error.WriteLine(
                    $"There is no {name}: counting, tagpage, search, marking, survey, importing, correcting, printing, finding, "
                        + "together, tagset, grouping."
                );
                return 2;
        }
    }
    finally
    {
        Directory.Delete(folder, recursive: true);
    }
}
return 0;
